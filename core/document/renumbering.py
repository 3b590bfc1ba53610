"""Giving cylinders other numbers: everything recorded moves with the cylinder it belongs to.

What a maker prints in numbers (firing order, codes) stays as it is: it was the numbers on the plan
that were wrong, not the book.
"""

from __future__ import annotations

import copy
from collections.abc import Mapping
from typing import Any

from core.document.observations import Observation, unfold
from core.errors import CoreError


def renumbered(document: Mapping[str, Any], numbers: Mapping[int, int]) -> dict[str, Any]:
    """The document with its cylinders numbered otherwise.

    Parameters
    ----------
    document : mapping
        A checked document; it is not changed.
    numbers : mapping of old to new number
        Every cylinder of the engine once, on either side.

    Returns
    -------
    dict

    Raises
    ------
    CoreError
        If a cylinder is left out or named twice.
    """
    everyone = set(range(1, document["engine"]["cylinders"] + 1))
    if set(numbers) != everyone or set(numbers.values()) != everyone:
        given = {str(old): new for old, new in numbers.items()}
        raise CoreError("numbers", "/numbers", given, "every cylinder once, before and after")
    moved: dict[str, Any] = copy.deepcopy(dict(document))
    if "banks" not in moved["engine"] and moved["engine"]["layout"] == "inline":
        # In number order from the front, until somebody says otherwise.
        moved["engine"]["banks"] = [{"name": "block", "cylinders": sorted(everyone)}]
    for group in (*moved["engine"].get("banks", []), *moved["engine"].get("feeds", [])):
        group["cylinders"] = [numbers[number] for number in group["cylinders"]]
    for record in moved.get("cylinders", []):
        record["number"] = numbers[record["number"]]
    for tests in moved.get("tests", {}).values():
        for item in tests:
            _move(item, numbers)
            for reading in item.get("readings", []):
                _move(reading, numbers)
    for field in ("judgement", "outcome", "refit", "proof"):
        for item in moved.get(field, {}).get("cylinders", []):
            _move(item, numbers)
    for item in moved.get("refit", {}).get("refused", []):
        _move(item, numbers)
    guess = moved.get("work", {}).get("first_guess", {})
    if "cylinders" in guess:
        guess["cylinders"] = sorted(numbers[number] for number in guess["cylinders"])
    return moved


def renumbering(document: Mapping[str, Any], numbers: Mapping[int, int]) -> list[Observation]:
    """The observations that number a document's cylinders otherwise, to be made as one.

    Raises
    ------
    CoreError
        As `renumbered`.
    """
    before = dict(unfold(dict(document)))
    after = dict(unfold(renumbered(document, numbers)))
    gone: list[Observation] = [(path, None) for path in before if path not in after]
    return gone + [(path, value) for path, value in after.items() if before.get(path) != value]


def _move(item: dict[str, Any], numbers: Mapping[int, int]) -> None:
    for field in ("cylinder", "from", "to"):
        if field in item:
            item[field] = numbers[item[field]]
