"""Cylinders under other numbers: everything recorded moves with the cylinder it belongs to.

A cylinder is known for good by its first number, the one it had when the inspection was opened; a
*numbering* lists those first numbers in the order of the numbers of today. What a maker prints in
numbers (firing order, codes) stays as it is: it was the numbers on the plan that were wrong, not
the book. Which fields name a cylinder stands in the schema (`x-cylinder`).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from core.document.observations import NUMBER, Observation, field_steps
from core.document.reading import pointer
from core.document.schema import SCHEMA
from core.document.shapes import Schema
from core.document.writing import canonical
from core.errors import CoreError
from core.language import say

NUMBERING = "/numbering"
"""Where a log says that the cylinders are numbered otherwise; its value is a numbering."""


def moves(before: Sequence[int], after: Sequence[int]) -> dict[int, int]:
    """The number of every cylinder in one numbering, as it is in another.

    Parameters
    ----------
    before, after : sequence of int
        First numbers in the order of the numbers then, and now.

    Returns
    -------
    dict of number before to number after
        Only those that differ; cylinders that one of the two does not know keep their number.
    """
    now = {first: number for number, first in enumerate(after, start=1)}
    pairs = ((number, now.get(first, number)) for number, first in enumerate(before, start=1))
    return {old: new for old, new in pairs if old != new}


def checked_numbering(value: Any, cylinders: int) -> list[int]:
    """A numbering of an engine with so many cylinders.

    Raises
    ------
    CoreError
        If a cylinder is left out or named twice.
    """
    everyone = list(range(1, cylinders + 1))
    whole = isinstance(value, list) and all(type(one) is int for one in value)
    if not whole or sorted(value) != everyone:
        raise CoreError("numbers", NUMBERING, value, say("every cylinder once"))
    return list(value)


def renumbered(document: Mapping[str, Any], numbers: Mapping[int, int]) -> dict[str, Any]:
    """The canonical document with its cylinders numbered otherwise; those not named stay."""
    moved: dict[str, Any] = _moved(document, SCHEMA, numbers)
    if "banks" not in moved["engine"] and moved["engine"]["layout"] == "inline":
        # In number order from the front, until somebody says otherwise.
        everyone = range(1, moved["engine"]["cylinders"] + 1)
        moved["engine"]["banks"] = [
            {"name": "block", "cylinders": [numbers.get(one, one) for one in everyone]}
        ]
    return canonical(moved)


def moved_observation(path: str, value: Any, numbers: Mapping[int, int]) -> Observation:
    """An observation as it reads where the cylinders are numbered otherwise, its path canonical.

    A path that names no field of the contract is left as it is: the fold refuses it.
    """
    if path == NUMBERING:
        return path, value
    schema: Schema = SCHEMA
    steps = field_steps(path)
    moved: list[str] = []
    for place, step in enumerate(steps):
        if "x-key" in schema:
            named = schema["items"]["properties"][schema["x-key"]]
            number = named.get("x-cylinder") and NUMBER.fullmatch(step)
            moved.append(str(_moved(int(step), named, numbers)) if number else step)
            schema = schema["items"]
            continue
        if step not in schema.get("properties", {}):
            return pointer([*moved, *steps[place:]]), value
        moved.append(step)
        schema = schema["properties"][step]
    return pointer(moved), _moved(value, schema, numbers)


def _moved(value: Any, schema: Schema, numbers: Mapping[int, int]) -> Any:
    if schema.get("x-printed"):
        return value
    if schema.get("x-cylinder"):
        return numbers.get(value, value) if isinstance(value, int) else value
    if isinstance(value, Mapping):
        known = schema.get("properties", {})
        return {name: _moved(one, known.get(name, {}), numbers) for name, one in value.items()}
    if isinstance(value, list):
        moved = [_moved(one, schema.get("items", {}), numbers) for one in value]
        return sorted(moved) if schema.get("x-set") else moved
    return value
