"""The table of complaints as records: what brings each, and how often it is said of nothing.

A row that names a complaint, a fault or a field that is not there never comes into being.
"""

from __future__ import annotations

import tomllib
from collections.abc import Iterable, Mapping
from functools import cache
from importlib import resources

import msgspec

from core.errors import KnowledgeError
from core.knowledge.limits import limits
from core.knowledge.rows import Row
from core.knowledge.tables import knowledge
from core.vocabulary import Complaint as Name
from core.vocabulary import words_of

CLEARLY = limits().said.complaint  # Of what is said of nothing.
LEVEL = "level"  # The group of what moves every reading alike: it is raised, and explains nothing.


class Complaint(Row, frozen=True):
    """What somebody complains of. Chances; of `level`, factors on odds. [-]"""

    name: str
    family: str
    otherwise: float = msgspec.field(name="else")
    brings: Mapping[str, float]
    level: Mapping[str, float] = {}


class Complaints(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Every complaint, by name."""

    complaint: tuple[Complaint, ...]

    def named(self, names: Iterable[str]) -> tuple[Complaint, ...]:
        """The rows of some complaints; a complaint that no row knows brings nothing."""
        wanted = set(names)
        return tuple(one for one in self.complaint if one.name in wanted)


@cache
def complaints() -> Complaints:
    """The one in `complaints.toml`.

    Raises
    ------
    KnowledgeError
        If a row names what is not there or gives a chance that is none; it names the row.
    """
    text = (resources.files(__package__) / "complaints.toml").read_text("utf-8")
    found = msgspec.convert(tomllib.loads(text), Complaints)
    known = knowledge()
    explains = {fault.id for fault in known.faults if fault.group != LEVEL}
    levels = {fault.id for fault in known.faults if fault.group == LEVEL}
    for one in found.complaint:
        if one.name not in words_of(Name):
            raise KnowledgeError(one.name, one.name, "a complaint of the vocabulary")
        for fault, chance in one.brings.items():
            if fault not in explains or not 0 < chance < 1:
                raise KnowledgeError(one.name, (fault, chance), "a fault, and a chance")
        for fault in one.level:
            if fault not in levels:
                raise KnowledgeError(one.name, fault, "a fault that moves every reading")
        if not 0 < one.otherwise < 1:
            raise KnowledgeError(one.name, one.otherwise, "a chance")
    return found


def spoken_for(names: Iterable[str]) -> set[str]:
    """Every fault that some complaints speak for: it brings one clearly oftener than none does."""
    found: set[str] = set()
    for one in complaints().named(names):
        found.update(one.level)
        found.update(f for f, brings in one.brings.items() if brings >= CLEARLY * one.otherwise)
    return found
