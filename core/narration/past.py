"""A table of whole histories: rows of several engines and days become one inspection each.

Every row says of which engine it is and from which day; the rest is read as in a table of one
inspection. An engine that is not known is taken to have as many cylinders as its rows name, in
line: what else it is has to be said afterwards.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from core.document import check_document
from core.document.observations import apply
from core.document.records import FORMAT, VERSION
from core.errors import CoreError, DocumentRefused
from core.narration.table import (
    NUMBERED,
    Column,
    Refused,
    columns_of,
    known_columns,
    read_rows,
    squared,
)

MOST_ROWS = 2000
ISO = re.compile(r"^(\d{4})-(\d{1,2})-(\d{1,2})(?:[ T].*)?$")
OTHER = re.compile(r"^(\d{1,2})([./-])(\d{1,2})\2(\d{4})$")
RUN = re.compile(r"^\s*([\d., ]*\d)\s*(km|mi|miles|h|hours|hrs)?\s*$", re.IGNORECASE)
UNITS = {"km": "km", "mi": "mi", "miles": "mi", "mileage": "mi", "h": "h", "hours": "h", "hrs": "h"}


@dataclass(frozen=True)
class Past:
    """One inspection that a table tells of, as a document that can be imported."""

    engine: str
    date: str
    known: bool
    entries: int
    document: dict[str, Any]


@dataclass(frozen=True)
class Histories:
    """A table of several inspections as it is understood: nothing of it is recorded yet."""

    columns: tuple[Column, ...]
    inspections: tuple[Past, ...]
    refused: tuple[Refused, ...]


def histories(
    cells: Sequence[Sequence[str]],
    engines: Mapping[str, Mapping[str, Any]],
    holds: Sequence[str] = (),
    units: Sequence[str] = (),
) -> Histories:
    """Read a table of several inspections.

    Parameters
    ----------
    cells : rows of strings
        Heads first: without them nobody knows which column names the engine.
    engines : mapping of str to mapping
        The shop's engines by number or mark in small letters, as the contract has them.
    holds, units : sequences of str, optional
        What each column holds and is measured in, where the guess is not to stand.

    Raises
    ------
    CoreError
        Where a column is said to hold what none can.
    """
    rows = squared(cells, MOST_ROWS + 1)
    if len(rows) < 2:
        raise CoreError("table", "", None, "heads and at least one row below them")
    heads, body = rows[0], rows[1:]
    columns = columns_of(heads, body, holds, units, known_columns(visits=True))
    at = {one.holds: place for place, one in enumerate(columns) if one.holds}
    refused: list[Refused] = []
    groups: dict[tuple[str, str], list[tuple[int, list[str]]]] = {}
    of_days = _days([row[at["date"]] for row in body]) if "date" in at else {}
    for place, row in enumerate(body, start=2):
        engine = row[at["engine"]] if "engine" in at else ""
        day = of_days.get(row[at["date"]], "") if "date" in at else ""
        if engine and day:
            groups.setdefault((engine, day), []).append((place, row))
        elif not engine:
            refused.append(Refused(place, at.get("engine", 0) + 1, engine, "no engine is named"))
        else:
            cell = row[at["date"]] if "date" in at else ""
            why = "no day that can only be read one way: write it as 2026-05-31"
            refused.append(Refused(place, at.get("date", 0) + 1, cell, why))
    made = []
    for (engine, day), own in groups.items():
        past, wrong = _inspection(engine, day, own, columns, at, engines.get(engine.lower()))
        refused += wrong
        made += [past] if past else []
    return Histories(columns, tuple(made), tuple(sorted(refused, key=lambda one: one.row)))


def _inspection(
    engine: str,
    day: str,
    rows: list[tuple[int, list[str]]],
    columns: Sequence[Column],
    at: Mapping[str, int],
    known: Mapping[str, Any] | None,
) -> tuple[Past | None, list[Refused]]:
    data = dict(known) if known else _unknown(engine, rows, at)
    given: dict[str, Any] = {"date": day}
    wrong = list(_run(rows, columns, at, given))
    bare = {"format": FORMAT, "version": VERSION, "engine": data, "inspection": given}
    document = check_document(bare)
    entries, refused = read_rows(columns, rows, document)
    try:
        document = apply(document, [(one.path, one.value) for one in entries])
    except (CoreError, DocumentRefused) as error:
        place, row = rows[0]
        return None, [*wrong, *refused, Refused(place, 1, row[0], str(error))]
    read = sum(1 for one in entries if one.cylinder)
    return Past(engine, day, known is not None, read, document), [*wrong, *refused]


def _unknown(
    engine: str, rows: list[tuple[int, list[str]]], at: Mapping[str, int]
) -> dict[str, Any]:
    """An engine of which nothing is known but what its rows name."""
    named = [NUMBERED.match(row[at["cylinder"]]) for _, row in rows] if "cylinder" in at else []
    count = max((int(one[1]) for one in named if one), default=len(rows))
    layout = "single" if count == 1 else "inline"
    data = {"title": engine, "identifier": engine, "cycle": "four-stroke", "layout": layout}
    return {**data, "cylinders": min(max(count, 1), 24)}


def _run(
    rows: list[tuple[int, list[str]]],
    columns: Sequence[Column],
    at: Mapping[str, int],
    given: dict[str, Any],
) -> Iterator[Refused]:
    """How far it had gone, from the first row that says it."""
    if "odometer" not in at:
        return
    across = at["odometer"]
    place, cell = next(((n, row[across]) for n, row in rows if row[across]), (0, ""))
    if not cell:
        return
    found = RUN.match(cell)
    words = re.findall(r"[a-z]+", columns[across].head.lower())
    unit = UNITS.get((found[2] or "").lower()) if found else None
    unit = unit or next((UNITS[one] for one in words if one in UNITS), None)
    if found and unit:
        given["odometer"] = {"value": float(re.sub(r"[ ,]", "", found[1])), "unit": unit}
    else:
        yield Refused(place, across + 1, cell, "no distance or hours with their unit")


def _days(cells: Sequence[str]) -> dict[str, str]:
    """Each cell's day, as the contract writes it, where it can only be read one way.

    3/4/2026 is March or April: another day of the column decides it, or nobody does. With a full
    stop the day stands first wherever dates are written so.
    """
    slashed = [one for cell in cells if (one := OTHER.match(cell)) and one[2] != "."]
    day_first = any(int(one[1]) > 12 for one in slashed)
    month_first = any(int(one[3]) > 12 for one in slashed)
    found = {}
    for cell in cells:
        iso, other = ISO.match(cell), OTHER.match(cell)
        if iso:
            year, month, day = iso[1], iso[2], iso[3]
        elif other and (other[2] == "." or day_first != month_first):
            first = other[2] == "." or day_first
            day, month = (other[1], other[3]) if first else (other[3], other[1])
            year = other[4]
        else:
            continue
        try:
            found[cell] = date(int(year), int(month), int(day)).isoformat()
        except ValueError:
            continue
    return found
