"""A table of cells: each column holds one thing, each row speaks of one cylinder.

What a column holds is guessed from its head and may be said otherwise; a figure takes the unit that
stands in its cell or its head, else the first in which all of its column can be. Words are
understood as if they were said. A cell that cannot be read is refused by its place, and told.
"""

from __future__ import annotations

import math
import re
import tomllib
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from importlib import resources
from typing import Any

from core.document.records import Document
from core.errors import CoreError
from core.narration.grammar import grammar
from core.narration.listener import Listener

FIGURE = re.compile(r"^\s*[~≈]?\s*(\d+(?:[.,]\d+)?)\s*(.*?)\s*$")
NUMBERED = re.compile(r"^\s*(?:cyl(?:inder)?\.?|no\.?|nr\.?|#)?\s*(\d{1,2})\s*$", re.IGNORECASE)
MOST_ROWS, MOST_COLUMNS, LONGEST_CELL = 200, 30, 400
IGNORED = ""


@dataclass(frozen=True)
class Column:
    """One column of a table, as it is understood.

    Attributes
    ----------
    head : str
        As it stands in the table; empty without heads.
    sample : str
        Its first cell that is not empty.
    holds : str
        An id of `columns.toml`; empty where it is left out.
    unit : str
        Of its figures, where the cells do not say it; empty for words.
    """

    head: str
    sample: str
    holds: str
    unit: str


@dataclass(frozen=True)
class Entry:
    """Something to record, and the cell that it came from."""

    path: str
    value: Any
    cylinder: int
    cell: str


@dataclass(frozen=True)
class Refused:
    """A cell that was not understood; rows and columns count from one, heads included."""

    row: int
    column: int
    cell: str
    why: str


@dataclass(frozen=True)
class Table:
    """A table as it is understood: nothing of it is recorded yet."""

    columns: tuple[Column, ...]
    entries: tuple[Entry, ...]
    refused: tuple[Refused, ...]
    turned: bool


@cache
def known_columns(*, visits: bool = False) -> Mapping[str, Mapping[str, Any]]:
    """What a column can hold, by its id; with `visits`, in a table of several inspections."""
    text = (resources.files(__package__) / "columns.toml").read_text("utf-8")
    found = {one["id"]: one for one in tomllib.loads(text)["column"]}
    if visits:  # Its own first: "hours" may stand in another head as well.
        return dict(sorted(found.items(), key=lambda one: not one[1].get("visit", False)))
    return {name: one for name, one in found.items() if not one.get("visit")}


def understand(
    cells: Sequence[Sequence[str]],
    checked: Mapping[str, Any],
    holds: Sequence[str] = (),
    units: Sequence[str] = (),
) -> Table:
    """Read a table for an inspection.

    Parameters
    ----------
    cells : rows of strings
        As a spreadsheet or a clipboard has them; heads first, if there are any. Cylinders may
        stand side by side: then the table is turned.
    checked : mapping
        The inspection's document.
    holds, units : sequences of str, optional
        What each column holds and is measured in, where the guess is not to stand. In the order of
        the columns after turning.

    Returns
    -------
    Table

    Raises
    ------
    CoreError
        Where a column is said to hold what none can.
    """
    rows = squared(cells)
    turned = _side_by_side(rows)
    if turned:
        rows = [list(row) for row in zip(*rows, strict=True)]
    if not rows:
        return Table((), (), (), turned)
    headed = not any(FIGURE.match(cell) for cell in rows[0] if not NUMBERED.match(cell) or turned)
    headed = headed and not all(NUMBERED.match(cell) for cell in rows[0][:1])
    heads = rows[0] if headed else [""] * len(rows[0])
    body = rows[1:] if headed else rows
    columns = columns_of(heads, body, holds, units, known_columns())
    first = 2 if headed else 1
    entries, refused = read_rows(columns, list(enumerate(body, start=first)), checked)
    return Table(columns, tuple(entries), tuple(refused), turned)


def columns_of(
    heads: Sequence[str],
    body: Sequence[Sequence[str]],
    holds: Sequence[str],
    units: Sequence[str],
    known: Mapping[str, Mapping[str, Any]],
) -> tuple[Column, ...]:
    """Each column with what it holds, guessed or said, of what is known."""
    return tuple(
        _column(at, head, [row[at] for row in body], holds, units, known)
        for at, head in enumerate(heads)
    )


def squared(cells: Sequence[Sequence[str]], most: int = MOST_ROWS) -> list[list[str]]:
    """Rows of one length, empty rows left out."""
    rows = [[str(cell).strip()[:LONGEST_CELL] for cell in row[:MOST_COLUMNS]] for row in cells]
    rows = [row for row in rows if any(row)][:most]
    wide = max((len(row) for row in rows), default=0)
    return [row + [""] * (wide - len(row)) for row in rows]


def _side_by_side(rows: list[list[str]]) -> bool:
    """Whether the first row counts cylinders and the first column names what was read."""
    if not rows or len(rows[0]) < 3:
        return False
    counted = [NUMBERED.match(cell) for cell in rows[0][1:]]
    named = all(not FIGURE.match(row[0]) for row in rows[1:] if row[0])
    numbers = [int(one[1]) for one in counted if one]
    return all(counted) and named and len(set(numbers)) == len(numbers)


def _column(
    at: int,
    head: str,
    cells: list[str],
    holds: Sequence[str],
    units: Sequence[str],
    known: Mapping[str, Mapping[str, Any]],
) -> Column:
    sample = next((cell for cell in cells if cell), "")
    holding = holds[at] if at < len(holds) else _guess(at, head, cells, known)
    if holding not in (IGNORED, *known):
        raise CoreError("column", "/holds", holding, f"one of {', '.join(known)}")
    unit = units[at] if at < len(units) else ""
    if "plausible" in known.get(holding, {}):
        unit = unit or _unit_in(head) or _unit_of(known[holding]["plausible"], cells)
    return Column(head, sample, holding, unit)


def _guess(at: int, head: str, cells: list[str], known: Mapping[str, Mapping[str, Any]]) -> str:
    """What a column holds, by its head; the first of a table without heads counts cylinders."""
    said = f" {re.sub(r'[^a-z#]+', ' ', head.lower())} "
    for holds, column in known.items():
        if any(f" {name} " in said for name in column["heads"]):
            return holds
    if at == 0 and (not head or all(NUMBERED.match(cell) for cell in cells if cell)):
        return "cylinder"
    return IGNORED


def _unit_in(text: str) -> str:
    """A unit that is named in a text, as the document spells it; empty if there is none."""
    words = tuple(re.findall(r"[a-z%.]+", text.lower().replace("·", ".").replace("-", " ")))
    found = grammar().units.anywhere(words)
    return str(found[2]) if found else ""


def _unit_of(quantity: str, cells: list[str]) -> str:
    """The first unit in which every bare figure of a column can be; empty if there is none."""
    figures = [found for cell in cells if (found := FIGURE.match(cell)) and not found[2]]
    values = [_value(one[1]) for one in figures]
    for unit, (low, high) in grammar().plausible[quantity].items():
        if values and all(low <= value <= high for value in values):
            return unit
    return ""


def _value(figure: str) -> float:
    return float(figure.replace(",", "."))


def read_rows(
    columns: Sequence[Column],
    rows: Sequence[tuple[int, Sequence[str]]],
    checked: Mapping[str, Any],
) -> tuple[list[Entry], list[Refused]]:
    """What the rows of one inspection come to, each row with its number in the table."""
    document = Document.of(checked)
    places, opening = _tests(document)
    entries: list[Entry] = []
    refused: list[Refused] = []
    counting = next((at for at, one in enumerate(columns) if one.holds == "cylinder"), None)
    for at, (place, row) in enumerate(rows):
        number = at + 1
        if counting is not None:
            found = NUMBERED.match(row[counting])
            number = int(found[1]) if found else 0
        if not 1 <= number <= document.engine.cylinders:
            cell = row[counting] if counting is not None else row[0]
            why = f"no cylinder of this engine; it has {document.engine.cylinders}"
            refused.append(Refused(place, (counting or 0) + 1, cell, why))
            continue
        for across, (column, cell) in enumerate(zip(columns, row, strict=True)):
            if not cell or column.holds not in known_columns() or column.holds == "cylinder":
                continue
            try:
                entries += _entries(column, cell, number, places, checked)
            except ValueError as why:
                refused.append(Refused(place, across + 1, cell, str(why)))
    told = " ".join(entry.path for entry in entries)
    begun = [one for one in opening if one.path.removesuffix("kind") in told]
    return [*begun, *entries], refused


def _tests(document: Document) -> tuple[dict[str, str], list[Entry]]:
    """The ids of the tests that readings go to, and what begins those that are not there yet."""
    places, opening = {"leakdown": "leakdown-1"}, []
    for kind in ("dry", "wet"):
        own = [test.id for test in document.tests.compression if test.kind == kind]
        places[kind] = own[-1] if own else f"{kind}-1"
        if not own:
            opening.append(Entry(f"/tests/compression/{places[kind]}/kind", kind, 0, ""))
    if document.tests.leakdown:
        places["leakdown"] = document.tests.leakdown[-1].id
    return places, opening


def _entries(
    column: Column, cell: str, number: int, places: Mapping[str, str], checked: Mapping[str, Any]
) -> Iterator[Entry]:
    """What a cell comes to; a ValueError says why it comes to nothing."""
    known = known_columns()[column.holds]
    if column.holds == "words":
        listener = Listener(checked, "faces")
        listener.cylinder = number
        heard = listener.hear(cell)
        if heard.not_understood:
            raise ValueError(f"not understood: {', '.join(heard.not_understood)}")
        if heard.questions:
            raise ValueError("; ".join(one.text for one in heard.questions))
        for one in heard.proposals:
            yield Entry(one.path, one.value, number, cell)
        return
    path = known["place"].format(n=number, **places)
    if "plausible" not in known:
        yield Entry(path, cell, number, cell)
        return
    found = FIGURE.match(cell)
    if not found or not math.isfinite(_value(found[1])):
        raise ValueError("no figure")
    unit = _unit_in(found[2]) or column.unit
    if found[2] and not _unit_in(found[2]):
        raise ValueError(f"no unit that is known: {found[2]}")
    if column.holds == "percent":
        yield Entry(path, _value(found[1]), number, cell)
        return
    if unit not in grammar().plausible[known["plausible"]]:
        raise ValueError("no unit: say what the column is measured in")
    yield Entry(path, {"value": _value(found[1]), "unit": unit}, number, cell)
