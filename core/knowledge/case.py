"""The tables of the case as records: what may be claimed, and what follows from it.

A row that names what is not there, or says a field that no row has, never comes into being.
"""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from functools import cache
from importlib import resources
from typing import Any, Literal

import msgspec

from core.errors import KnowledgeError
from core.knowledge.plug_words import plug_words
from core.knowledge.rows import Row
from core.knowledge.tables import SOURCE_KINDS, knowledge
from core.vocabulary import Act, Grade, NextTest, words_of

Lift = Literal["piece", "crown", "blown"]
Answer = Literal["yes", "with-care", "no"]


class Ladder(Row, frozen=True):
    """From which chance on something is claimed. [-]"""

    stands: float
    raised: float
    some: float
    alike: float
    almost: float
    certain: float
    patience: float


class Topic(Row, frozen=True):
    """What may be said where one of several faults is there and none is likely by itself."""

    id: str
    faults: tuple[str, ...]
    says: str
    many: str
    gaskets: bool = False
    settles: tuple[NextTest, ...] = ()


class Acceptance(Row, frozen=True):
    """Which rule makes a claim by itself."""

    peers_factor: float
    peers_percent: float
    least_peers: int


class Degree(Row, frozen=True):
    """From which area a leak is gross. [mm2 for each 500 cm3]"""

    gross_area: float


class Proof(Row, frozen=True):
    """What a grade as left is at least, by what its proof lacks."""

    failed_grade: Grade
    dead_grade: Grade
    asked_grade: Grade
    other_grade: Grade


class Seen(Row, frozen=True):
    """One look, and what it holds until it is lifted."""

    at: str
    word: str = msgspec.field(name="is")
    says: str
    client: str
    grade: Grade
    many: str = ""
    then: Grade = "D"
    hazard: str = ""
    shows: str = ""
    explains: tuple[str, ...] = ()
    act: Act | None = None
    lifted: Lift | None = None
    lifts: str = ""
    settles: NextTest | None = None

    @property
    def of_engine(self) -> bool:
        return self.at.startswith(("distributor/", "inspection/"))

    @property
    def of_record(self) -> bool:
        """Whether it is said where no channel weighs it."""
        return self.of_engine or self.at.startswith("work/")


class Hazard(Row, frozen=True):
    """What running an engine with something would risk."""

    row: str
    hazard: str
    answer: Answer
    text: str
    open: str = ""
    faults: tuple[str, ...] = ()
    shared: tuple[str, ...] = ()
    two_stroke: Answer | None = None
    four_stroke: str = ""
    catalyst: str = ""

    def answer_on(self, cycle: str) -> Answer:
        return self.two_stroke if self.two_stroke and cycle == "two-stroke" else self.answer


class CaseTables(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Everything that the case goes by, checked."""

    ladder: Ladder
    topic: tuple[Topic, ...]
    acceptance: Acceptance
    degree: Degree
    proof: Proof
    seen: tuple[Seen, ...]
    hazards: tuple[Hazard, ...]

    def hazard(self, row: str) -> Hazard:
        return next(one for one in self.hazards if one.row == row)

    def hazard_of(self, fault: str) -> Hazard | None:
        """The hazard of one cylinder's fault, or of a gasket between two."""
        return next((one for one in self.hazards if fault in one.faults), None)

    def hazard_of_shared(self, fault: str) -> Hazard | None:
        """The hazard of what cylinders share: its own, or that of what it acts as."""
        known = knowledge().fault(fault, "engine")
        groups = {known.group, known.hazard}
        by_group = (one for one in self.hazards if groups & set(one.shared))
        return self.hazard_of(fault) or next(by_group, None)


@cache
def case_tables() -> CaseTables:
    """The tables of the case."""
    text = (resources.files("core.knowledge") / "case.toml").read_text("utf-8")
    return case_tables_of(tomllib.loads(text))


def case_tables_of(rows: Mapping[str, Any]) -> CaseTables:
    """Checked tables from rows as they are written.

    Raises
    ------
    KnowledgeError
        If a row names what is not there, or has a field that none has.
    """
    hazards = knowledge().judgement["hazard"]
    try:
        tables = msgspec.convert({**rows, "hazards": hazards}, CaseTables)
    except msgspec.ValidationError as refused:
        raise KnowledgeError("case.toml", str(refused), "rows as core/knowledge/case.py") from None
    _check(tables)
    return tables


def _check(tables: CaseTables) -> None:
    known = knowledge()
    # What burns a plug may have burnt the piston: both tables name the same looks.
    burnt = {
        (f"plug/{field}", word)
        for field, words in plug_words().items()
        for word, entry in words.items()
        if entry.spoils == "burnt"
    }
    first = {(one.at, one.word) for one in tables.seen if one.lifted == "crown"}
    if burnt != first:
        raise KnowledgeError("case.toml", sorted(burnt ^ first), "the burnt looks of plug.toml")
    faults = {fault.id for fault in known.faults}
    rows = {one.row for one in tables.hazards}
    channels = {**known.channels, **known.face_words}
    for one in (*tables.topic, *tables.seen, *tables.hazards):
        if one.source not in SOURCE_KINDS and not one.source.startswith("published: "):
            raise KnowledgeError("case.toml", one.source, f"a source for {one.note}")
    for topic in tables.topic:
        _known(f"topic/{topic.id}", topic.faults, faults)
    for hazard in tables.hazards:
        _known(f"hazard/{hazard.row}", hazard.faults, faults)
    for seen in tables.seen:
        path = f"seen/{seen.at}={seen.word}"
        _known(path, [seen.hazard] if seen.hazard else [], rows)
        _known(path, (*([seen.shows] if seen.shows else []), *seen.explains), faults)
        if not seen.of_record:
            face = seen.at.removeprefix("plug/")
            _known(path, [seen.at if seen.at in channels else face], set(channels))
            values = (
                known.channels[seen.at].values
                if seen.at in known.channels
                else tuple(known.face_words[face])
            )
            _known(path, [seen.word], set(values))
        if seen.grade == "E" and tables.hazard(seen.hazard).answer != "no":
            raise KnowledgeError(path, seen.hazard, "a hazard that forbids, for E does")
        if seen.act is not None and seen.act not in words_of(Act):
            raise KnowledgeError(path, seen.act, "an act of the price book")


def _known(path: str, named: list[str] | tuple[str, ...], known: set[str]) -> None:
    for name in named:
        if name not in known:
            raise KnowledgeError(path, name, f"one of {', '.join(sorted(known))}")
