"""The table of records that cannot both be right, as records."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib import resources
from typing import Literal

import msgspec

from core.errors import KnowledgeError
from core.knowledge.plug_words import plug_words
from core.knowledge.rows import Row
from core.knowledge.tables import knowledge


class Pair(Row, frozen=True, rename={"words": "is"}):
    """Two places of a record, and the words there that quarrel; no words: anything said."""

    one: str
    other: str
    says: str
    doubts: Literal["both", "other", "none"]
    words: tuple[str, ...] = ()
    means: tuple[str, ...] = ()


class Pairs(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Every pair, in the order in which they are told."""

    pair: tuple[Pair, ...]


@cache
def pairs() -> tuple[Pair, ...]:
    """The ones in `contradictions.toml`.

    Raises
    ------
    KnowledgeError
        If a row speaks of a word that its place does not know; it names the row.
    """
    text = (resources.files(__package__) / "contradictions.toml").read_text("utf-8")
    found = msgspec.convert(tomllib.loads(text), Pairs).pair
    for row in found:
        for place, said in ((row.one, row.words), (row.other, row.means)):
            known = _words_of(place)
            if known is not None and not set(said) <= known:
                raise KnowledgeError(place, sorted(set(said) - known), f"one of {sorted(known)}")
    return found


def _words_of(place: str) -> set[str] | None:
    """The words that tables know of a place of a plug or a channel; None where they know none."""
    group, _, field = place.partition("/")
    if group == "plug" and field in plug_words():
        return set(plug_words()[field])
    channel = knowledge().channels.get(place)
    return set(channel.values) if channel is not None else None
