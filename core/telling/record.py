"""The record as it was said: every entry of a document, its place and its value in words.

Words of the contract's closed lists are told with spaces; whatever somebody typed stands as typed,
and a figure as a workshop writes it, with its own unit.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from core.document.observations import unfold
from core.document.schema import SCHEMA
from core.document.units import SYSTEMS
from core.language import cylinders_said, say, word_said
from core.quantities import DIMENSION_OF, Figure, Quantity, figure, spoken

# Where the document says "readings/3" it means cylinder 3: so does the report.
BY_CYLINDER = ("cylinders", "readings", "misfires", "relative", "balance", "spark", "noises")
DIGITS = 6


@dataclass(frozen=True)
class Entry:
    """One entry: its path in the log, where it belongs, what was asked and what was said."""

    path: str
    place: str
    label: str
    value: str


def record_entries(document: dict[str, Any], system: str = "as-read") -> list[Entry]:
    """Every entry of a checked document, in its own order.

    Parameters
    ----------
    document : dict
        As it was read: other units stand behind the figure that was read, not for it.
    system : str
        `as-read`, `metric` or `imperial`.
    """
    entries = []
    for path, value in unfold(document):
        steps = [step.replace("~1", "/").replace("~0", "~") for step in path.split("/")[1:]]
        schema, place = _followed(steps)
        told = _told(value, schema, system)
        entries.append(Entry(path, ", ".join(place), word_said(steps[-1]), told))
    return entries


def field_said(value: Any, *steps: str) -> str:
    """One field's value as it is said, by its place in a document; as it was read."""
    schema: Mapping[str, Any] = SCHEMA
    for step in steps:
        schema = schema["properties"][step]
    return _told(value, schema, "as-read")


def _followed(steps: list[str]) -> tuple[Mapping[str, Any], list[str]]:
    """The schema of a path's value, and where it belongs in words."""
    schema: Mapping[str, Any] = SCHEMA
    place: list[str] = []
    for at, step in enumerate(steps):
        if "x-key" in schema:
            of_cylinder = schema["x-key"] in ("number", "cylinder")
            place.append(cylinders_said([step]) if of_cylinder else step)
            schema = schema["items"]
        else:
            schema = schema["properties"][step]
            if at < len(steps) - 1 and step not in BY_CYLINDER:
                place.append(word_said(step))
    return schema, place


def _told(value: Any, schema: Mapping[str, Any], system: str) -> str:
    if isinstance(value, bool):
        return say("yes") if value else say("no")
    if isinstance(value, dict):
        if value.keys() == {"value", "unit"}:
            return _figure(value, system)
        inner = schema.get("properties", {})
        return "; ".join(
            f"{word_said(name)}: {_told(one, inner.get(name, {}), system)}"
            for name, one in value.items()
        )
    if isinstance(value, list):
        item = schema.get("items", {})
        return ", ".join(_told(one, item, system) for one in value)
    if isinstance(value, int | float):
        return figure(float(value), 12)
    return word_said(value) if "enum" in schema else str(value)


def _figure(raw: Mapping[str, Any], system: str) -> str:
    read = Figure(raw["value"], raw["unit"])
    own = spoken(read, DIGITS)
    wanted = SYSTEMS.get(system, {}).get(DIMENSION_OF[read.unit])
    if wanted is None or wanted == read.unit or read.unit == "h":
        return own
    other = Quantity.read(read, DIMENSION_OF[read.unit]).to(wanted)
    return say("{other} (read: {own})", other=other.spoken(4), own=own)


def entries_by_place(entries: list[Entry]) -> Iterator[tuple[str, list[Entry]]]:
    """The entries of each place together, in their order."""
    by_place: dict[str, list[Entry]] = {}
    for one in entries:
        by_place.setdefault(one.place, []).append(one)
    yield from by_place.items()
