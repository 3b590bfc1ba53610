"""What somebody wrote down of a round, beside what the instruments showed."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from core.document import check_document
from core.document.observations import apply
from core.document.readings import final_of, held_of
from core.document.records import Document
from core.errors import CoreError
from core.knowledge import knowledge
from core.language import say
from core.quantities import Dimension, Quantity
from core.training.cases import Json

OWN_PLACES = ("/cylinders/", "/tests/")  # What an apprentice may write of; the rest was told.
OF_A_CYLINDER = ("plug", "well", "borescope")
Fact = tuple[str, Any]


@dataclass(frozen=True)
class Slip:
    """What was written otherwise than it was shown.

    Attributes
    ----------
    path : str
        Where; a test by its kind.
    shown, written : object
        As the document spells them; pressures as quantities.
    """

    path: str
    shown: Any
    written: Any


@dataclass(frozen=True)
class Written:
    """How a record stands beside the instruments.

    Attributes
    ----------
    right, left : int
        Findings written as they were shown, and those nobody wrote down.
    slips : tuple of Slip
    """

    right: int
    left: int
    slips: tuple[Slip, ...]


def write(record: Json, entries: list[Fact]) -> Json:
    """A record with some more written into it.

    Raises
    ------
    CoreError, DocumentRefused
        If an entry is of another place, or would break the record; nothing is written then.
    """
    for path, value in entries:
        if not path.startswith(OWN_PLACES):
            raise CoreError("path", path, value, say("a finding of a cylinder or a test"))
    return apply(check_document(record), entries)


def compared(shown: Json, record: Json, straight: Json) -> Written:
    """A record beside what the instruments showed; figures agree in whatever unit they stand.

    Parameters
    ----------
    shown, record, straight : dict
        Documents of the same engine: what was shown, what was written, and what would have been
        shown without a trap. Who saw through the trap has written rightly too.
    """
    own, honest = dict(_facts(record)), dict(_facts(straight))
    right, left, slips = 0, 0, list[Slip]()
    for path, seen in _facts(shown):
        written = own.get(path)
        if written is None:
            left += 1
        elif _agree(seen, written) or _agree(honest.get(path, seen), written):
            right += 1
        else:
            slips.append(Slip(path, seen, written))
    return Written(right, left, tuple(slips))


def _facts(document: Json) -> Iterator[Fact]:
    """Every finding that an instrument or the eye gives, by its place."""
    for one in document.get("cylinders", []):
        for part in OF_A_CYLINDER:
            for field, value in one.get(part, {}).items():
                yield f"/cylinders/{one['number']}/{part}/{field}", value
    tests = Document.of(check_document(document)).tests
    for test in tests.compression:
        for reading in test.readings:
            place = f"/tests/compression/{test.kind}/readings/{reading.cylinder}"
            if final := final_of(reading):
                yield f"{place}/pressure", {"value": final.value, "unit": final.unit}
    for leak in tests.leakdown:
        for lost in leak.readings:
            place = f"/tests/leakdown/readings/{lost.cylinder}"
            if held := held_of(leak, lost):
                yield f"{place}/percent", round(100 * (1 - held[1] / held[0]), 1)
            if lost.escapes:
                yield f"{place}/escapes", sorted(lost.escapes)
    for felt in tests.balance:
        if felt.felt:
            yield f"/tests/balance/{felt.cylinder}/felt", felt.felt
    for spark in tests.spark:
        if spark.result:
            yield f"/tests/spark/{spark.cylinder}/result", spark.result


def _agree(shown: Any, written: Any) -> bool:
    within = float(knowledge().training["record"]["within"])
    if isinstance(shown, dict):
        return math.isclose(_si(shown), _si(written), rel_tol=within)
    if isinstance(shown, float):
        return math.isclose(shown, written, abs_tol=100 * within)
    if isinstance(shown, list):
        return sorted(shown) == sorted(written)
    return bool(shown == written)


def _si(figure: Json) -> float:
    """A pressure or a length, whichever its unit is of. [Pa, m]"""
    of_length = figure["unit"] in ("mm", "in", "thou")
    dimension = Dimension.LENGTH if of_length else Dimension.PRESSURE
    return Quantity(figure["value"], figure["unit"], dimension).si
