"""What somebody saw with their own eyes: it holds until it was looked at again or put right."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from core.document.records import Document
from core.knowledge import knowledge
from core.knowledge.case import Seen, case_tables
from core.vocabulary import Grade

ACCOUNTED = ("found", "burnt-away", "looked-nothing-there")
ENGINE = 0  # Of what no one cylinder's is.


@dataclass(frozen=True)
class Sight:
    """One look at one cylinder, or at what all share (`ENGINE`), and whether it was lifted."""

    row: Seen
    cylinder: int
    lifted: bool

    @property
    def grade(self) -> Grade:
        return self.row.then if self.lifted else self.row.grade

    @property
    def hazard(self) -> str:
        return "" if self.lifted else self.row.hazard


def sights(document: Document) -> list[Sight]:
    """Everything alarming that was seen, in the order of the table."""
    said: dict[tuple[str, str], list[int]] = {}
    for place, word, cylinder in _said(document):
        said.setdefault((place, word), []).append(cylinder)
    return [
        Sight(row, cylinder, _lifted(row, document, cylinder))
        for row in case_tables().seen
        for cylinder in said.get((row.at, row.word), ())
    ]


def _said(document: Document) -> Iterator[tuple[str, str, int]]:
    """Place, word and cylinder of everything that was said in words."""
    for record in document.cylinders:
        number = record.number
        for group in ("well", "plug", "borescope"):
            for name, value in getattr(record, group).items():
                yield from _words(f"{group}/{name}", value, number)
        yield from _words("boot", record.boot, number)
        yield from _words("coil", record.coil, number)
    for look in document.tests.port_look:
        yield "port_look", str(look.piston), look.cylinder
    for number in loose_pieces(document):
        if document.cylinder(number).plug.ground_electrode != "missing":
            yield "work/pieces", "missing", number
    for name, value in document.distributor.items():
        yield f"distributor/{name}", str(value), ENGINE
    if far_advanced(document):
        yield "distributor/timing", "far-early", ENGINE
    for complaint in document.inspection.complaints:
        yield "inspection/complaints", complaint, ENGINE


def _words(place: str, value: object, cylinder: int) -> Iterator[tuple[str, str, int]]:
    """A word at its place; of a list each word as it was ticked, of a tick yes or no."""
    if isinstance(value, bool):
        yield place, "yes" if value else "no", cylinder
    elif isinstance(value, tuple):
        for word in value:
            yield f"{place}:{word}", "yes", cylinder
    elif isinstance(value, str):
        yield place, value, cylinder


def far_advanced(document: Document) -> bool:
    """Whether the timing was read far before what is specified, or before what anybody sets."""
    read = document.distributor.timing_deg_btdc
    given = document.engine.specification.timing_deg_btdc
    latest = max(knowledge().usual["timing_deg"]) if given is None else given
    return read is not None and read - latest > knowledge().far["timing_deg"]


def _lifted(row: Seen, document: Document, cylinder: int) -> bool:
    if row.lifted == "piece":
        return cylinder not in loose_pieces(document)
    if row.lifted == "crown":
        return crown_seen(document, cylinder)
    blown = any(one.id == "wells" and one.state == "done" for one in document.work.steps)
    return row.lifted == "blown" and blown


def crown_seen(document: Document, cylinder: int) -> bool:
    """Whether somebody looked at a crown and found it whole, through the plug hole or the port."""
    crown = document.cylinder(cylinder).borescope.crown
    ports = {one.cylinder: one.piston for one in document.tests.port_look}
    return crown not in (None, "damaged") or ports.get(cylinder) == "clean"


def loose_pieces(document: Document) -> list[int]:
    """Cylinders that may hold a piece of their plug which nobody has accounted for."""
    pieces = document.work.pieces
    known = {one.cylinder for one in pieces if one.state in ACCOUNTED}
    named = {one.cylinder for one in pieces if one.state == "missing"} - known
    found = []
    for number in range(1, document.engine.cylinders + 1):
        record = document.cylinder(number)
        missing = number in named or record.plug.ground_electrode == "missing"
        if missing and number not in known and not record.borescope.recorded:
            found.append(number)
    return found


def burnt(document: Document) -> list[int]:
    """Cylinders whose plug was eaten by heat, so that their crown is looked at first."""
    rows = {(row.at, row.word) for row in case_tables().seen if row.lifted == "crown"}
    return [
        record.number
        for record in document.cylinders
        if any(
            (f"plug/{name}", value) in rows
            for name, value in record.plug.items()
            if isinstance(value, str)
        )
    ]


def crown_unseen(document: Document) -> list[int]:
    """Of those, the ones whose crown nobody has seen whole."""
    return [number for number in burnt(document) if not crown_seen(document, number)]


def by_cylinder(found: Sequence[Sight]) -> Mapping[int, list[Sight]]:
    """Looks by cylinder; those at what all share under `ENGINE`."""
    sorted_: dict[int, list[Sight]] = {}
    for one in found:
        sorted_.setdefault(one.cylinder, []).append(one)
    return sorted_
