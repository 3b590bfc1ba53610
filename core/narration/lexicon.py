"""The lexicon as the listener uses it: phrases by their words, and what each may mean where."""

from __future__ import annotations

import tomllib
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from core.knowledge.plug_words import plug_words

NO_SUBJECTS = {"subjects", "plug_subjects", "hedges", "denials", "elsewhere", "heard", "fillers",
               "units", "plausible"}  # fmt: skip


@dataclass(frozen=True)
class Meaning:
    """What a phrase means under one subject: a field and its word."""

    subject: str
    field: str
    word: str


@dataclass(frozen=True)
class Lexicon:
    """Everything that can be said.

    Attributes
    ----------
    phrases : dict of tuple of str to tuple of Meaning
    subjects : dict of tuple of str to str
        Nouns that set what is spoken of.
    words : dict of str to set of str
        By field, all its words: whether a denial has a word.
    units : dict of tuple of str to str
    plausible : dict
        By quantity, its units in the order in which they are tried, each with its range.
    unsaid : dict of str to float
        By quantity, below which a whole figure without a unit is none.
    """

    phrases: dict[tuple[str, ...], tuple[Meaning, ...]]
    subjects: dict[tuple[str, ...], str]
    words: dict[str, set[str]]
    units: dict[tuple[str, ...], str]
    hedges: frozenset[tuple[str, ...]]
    elsewhere: frozenset[tuple[str, ...]]
    engines: frozenset[tuple[str, ...]]
    denials: frozenset[str]
    denials_end: frozenset[str]
    degrees: frozenset[str]
    heard: dict[str, str]
    fillers: frozenset[str]
    plausible: dict[str, dict[str, tuple[float, float]]]
    unsaid: dict[str, float]
    longest: int


@cache
def lexicon() -> Lexicon:
    """The lexicon, read once."""
    raw = _raw()
    phrases: dict[tuple[str, ...], list[Meaning]] = defaultdict(list)
    words: dict[str, set[str]] = defaultdict(set)
    plurals = {said: one for said, one in raw["heard"].items() if said == f"{one}s"}
    for subject, fields in raw.items():
        if subject in NO_SUBJECTS:
            continue
        for field, said in fields.items():
            for word, several in said.items():
                words[field].add(word)
                for phrase in several:
                    heard_so = tuple(plurals.get(one, one) for one in _split(phrase))
                    phrases[heard_so].append(Meaning(subject, field, word))
    subjects = {_split(p): name for name, several in raw["subjects"].items() for p in several}
    units = {_split(p): unit for unit, several in raw["units"].items() for p in several}
    hedges = frozenset(_split(p) for p in raw["hedges"]["words"])
    engines = frozenset(_split(p) for p in raw["elsewhere"]["engines"])
    elsewhere = engines | {_split(p) for p in raw["elsewhere"]["words"]}
    every: list[tuple[str, ...]] = [*phrases, *subjects, *units, *hedges, *elsewhere]
    return Lexicon(
        phrases={phrase: tuple(meant) for phrase, meant in phrases.items()},
        subjects=subjects,
        words=dict(words),
        units=units,
        hedges=hedges,
        elsewhere=elsewhere,
        engines=engines,
        denials=frozenset(raw["denials"]["words"]),
        denials_end=frozenset(raw["denials"]["ends"]),
        degrees=frozenset(raw["denials"]["degrees"]),
        heard=raw["heard"],
        fillers=frozenset(raw["fillers"]["words"]),
        plausible={
            quantity: {unit: (low, high) for unit, (low, high) in one["units"].items()}
            for quantity, one in raw["plausible"].items()
        },
        unsaid={
            quantity: one["unsaid"] for quantity, one in raw["plausible"].items() if "unsaid" in one
        },
        longest=max(len(one) for one in every),
    )


def _raw() -> dict[str, Any]:
    """The lexicon as written, with the words of a plug under what they are said of."""
    raw: dict[str, Any] = tomllib.loads((Path(__file__).parent / "lexicon.toml").read_text())
    own = raw["plug_subjects"]
    for field, words in plug_words().items():
        said = raw.setdefault(own.get(field, "plug"), {}).setdefault(field, {})
        said.update({word: entry.heard for word, entry in words.items() if entry.heard})
    return raw


def _split(phrase: str) -> tuple[str, ...]:
    return tuple(phrase.split())


def longest_at(
    table: dict[tuple[str, ...], Any] | frozenset[tuple[str, ...]],
    tokens: Sequence[str],
    at: int,
    longest: int,
) -> tuple[str, ...] | None:
    """The longest phrase of a table that begins at a token."""
    for size in range(min(longest, len(tokens) - at), 0, -1):
        phrase = tuple(tokens[at : at + size])
        if phrase in table:
            return phrase
    return None
