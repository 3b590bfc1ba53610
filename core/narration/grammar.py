"""The grammar as the listener uses it: nouns, whom, moods, figures; and what its words mean."""

from __future__ import annotations

import tomllib
from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from core.knowledge.plug_words import plug_words

HERE = Path(__file__).parent
Phrase = tuple[str, ...]
ENDINGS = ("ing", "ed", "es", "s", "ly")
NO_SUBJECTS = ("plug_subjects", "units", "plausible")


@dataclass(frozen=True)
class Meaning:
    """What a phrase means of one part: a field and its word."""

    part: str
    field: str
    word: str


@dataclass(frozen=True)
class Measure:
    """A figure that can be said: where it goes, its nouns, its dimension."""

    name: str
    place: str
    dimension: str
    rounds: tuple[str, ...]
    bare: bool  # Its place takes a number, not a quantity.
    also: Mapping[str, str]  # By a word that was said, what is then so as well.


@dataclass(frozen=True)
class Phrases:
    """Phrases by their first word, the longest first, each with what it stands for."""

    by_first: Mapping[str, tuple[tuple[Phrase, Any], ...]]

    @classmethod
    def of(cls, pairs: Iterable[tuple[str, Any]], skips: frozenset[str] = frozenset()) -> Phrases:
        found: dict[str, dict[Phrase, Any]] = defaultdict(dict)
        for said, meant in pairs:
            words = said.split()
            phrase = tuple(one for one in words if one not in skips) or tuple(words)
            found[phrase[0]].setdefault(phrase, meant)
        ordered = {
            first: tuple(sorted(own.items(), key=lambda one: -len(one[0])))
            for first, own in found.items()
        }
        return cls(ordered)

    def at(self, texts: Sequence[str], at: int) -> tuple[int, Any] | None:
        """The longest phrase that begins at a place: where it ends and what it stands for."""
        for phrase, meant in self.by_first.get(texts[at], ()):
            if tuple(texts[at : at + len(phrase)]) == phrase:
                return at + len(phrase), meant
        return None

    def every(self, texts: Sequence[str], at: int) -> Iterator[tuple[int, Any]]:
        """Every phrase that begins at a place, the longest first."""
        for phrase, meant in self.by_first.get(texts[at], ()):
            if tuple(texts[at : at + len(phrase)]) == phrase:
                yield at + len(phrase), meant

    def anywhere(self, texts: Sequence[str]) -> tuple[int, int, Any] | None:
        """The first phrase in a text: where it begins and ends, and what it stands for."""
        for at in range(len(texts)):
            if found := self.at(texts, at):
                return at, *found
        return None


@dataclass(frozen=True)
class Grammar:
    """All tables; see grammar.toml and lexicon.toml for what each holds."""

    raw: Mapping[str, Any]
    spellings: Mapping[str, str]
    skips: frozenset[str]
    degrees: frozenset[str]
    parts: Phrases
    phrases: Phrases  # To tuples of Meaning.
    words_of: Mapping[str, frozenset[str]]
    measures: Mapping[str, Measure]
    measure_nouns: Phrases
    units: Phrases
    plausible: Mapping[str, Mapping[str, tuple[float, float]]]
    unsaid: Mapping[str, Mapping[str, tuple[float, float]]]  # Where no unit was said.
    hedges: Phrases
    denials: Phrases
    moods: Mapping[str, Phrases]
    amounts: Phrases
    whom: Mapping[str, Any]

    def lists(self, meaning: Meaning) -> bool:
        return f"{meaning.part}.{meaning.field}" in self.raw["lists"]["fields"]

    def strange_in(self, round_: str) -> Phrases:
        """Parts that are not ours in a round."""
        ours = self.raw["strange"]["ours_in_leakdown"] if round_ == "leakdown" else ()
        return _named({"strange": [one for one in self.raw["strange"]["parts"] if one not in ours]})

    def flag(self, field: str) -> bool:
        return field in self.raw["lists"]["flags"]


@cache
def grammar() -> Grammar:
    """The grammar, read once."""
    raw = _read("grammar.toml")
    said = _read("lexicon.toml")
    own = said["plug_subjects"]
    for field, words in plug_words().items():
        part = said.setdefault(own.get(field, "plug"), {}).setdefault(field, {})
        for word, entry in words.items():
            part[word] = [*part.get(word, ()), *entry.heard]
    skips = frozenset(raw["skips"]["words"])
    meanings: dict[str, list[Meaning]] = defaultdict(list)
    words_of: dict[str, set[str]] = defaultdict(set)
    for part, fields in said.items():
        if part in NO_SUBJECTS:
            continue
        for field, words in fields.items():
            for word, several in words.items():
                words_of[field].add(word)
                for one in several:
                    meanings[_spelt(one, raw["spellings"])].append(Meaning(part, field, word))
    empty: set[str] = {*skips} | {*raw["skips"]["degrees"], *raw["skips"]["alone"]}
    empty |= {word for several in raw["parts"].values() for one in several for word in one.split()}
    empty = {stem(one) for one in empty}
    merged: dict[Phrase, list[Meaning]] = defaultdict(list)
    whole_first = sorted(meanings.items(), key=lambda one: _shortened(one[0], skips))
    for phrase, meant in whole_first:
        reduced = _reduced(phrase, skips)
        if empty.issuperset(reduced) and _shortened(phrase, skips):
            continue  # What is left of it says nothing.
        told = {(one.part, one.field) for one in merged[reduced]}
        merged[reduced] += [one for one in meant if (one.part, one.field) not in told]
    measures = {
        name: Measure(
            name,
            one["place"],
            one["dimension"],
            tuple(one.get("rounds", ())),
            one.get("bare", False),
            one.get("also", {}),
        )
        for name, one in raw["measure"].items()
    }
    plausible = {name: one["units"] for name, one in (said["plausible"] | raw["dimension"]).items()}
    return Grammar(
        raw=raw,
        spellings=raw["spellings"],
        skips=skips,
        degrees=frozenset(raw["skips"]["degrees"]),
        parts=_named(raw["parts"]),
        phrases=Phrases.of([(" ".join(p), tuple(m)) for p, m in merged.items()]),
        words_of={field: frozenset(words) for field, words in words_of.items()},
        measures=measures,
        measure_nouns=_named({name: one["nouns"] for name, one in raw["measure"].items()}),
        units=_named(said["units"]),
        plausible=plausible,
        unsaid={
            name: one.get("unsaid_units", one["units"])
            for name, one in (said["plausible"] | raw["dimension"]).items()
        },
        denials=_named({"deny": raw["denials"]["long"]}),
        hedges=_named({"hedge": raw["hedges"]["words"]}),
        moods={
            name: Phrases.of(
                [(one if isinstance(one, str) else " ".join(one), name) for one in several]
            )
            for name, several in raw["moods"].items()
        },
        amounts=_named({name: raw["amounts"][name] for name in ("low", "high")}),
        whom=raw["whom"],
    )


def _named(table: Mapping[str, Sequence[str]]) -> Phrases:
    return Phrases.of([(phrase, name) for name, several in table.items() for phrase in several])


def _spelt(phrase: str, spellings: Mapping[str, str]) -> str:
    return " ".join(spellings.get(one, one) for one in phrase.replace("'s", "").split())


def _reduced(phrase: str, skips: frozenset[str]) -> Phrase:
    words = phrase.split()
    return tuple(stem(one) for one in words if one not in skips) or tuple(map(stem, words))


def _shortened(phrase: str, skips: frozenset[str]) -> bool:
    return len(_reduced(phrase, skips)) < len(phrase.split())


@cache
def stem(word: str) -> str:
    """A word without its ending, so that smokes, smoked and smoking are one."""
    for ending in ENDINGS:
        if word.endswith(ending) and len(word) - len(ending) > 2 and not word.endswith("ss"):
            word = word[: -len(ending)]
            break
    if len(word) > 3 and word[-1] == word[-2]:
        word = word[:-1]
    return word[:-1] if len(word) > 3 and word[-1] == "e" else word


def _read(name: str) -> dict[str, Any]:
    return tomllib.loads((HERE / name).read_text())
