"""The record part of a report: every entry that stands, with who made it and when."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping
from typing import Any

from core.document.log import followed
from core.language import say
from core.telling.record import entries_by_place, record_entries
from server.inspections.models import Inspection

LONG = 30  # A word that a line may have to break.


def record_part(
    inspection: Inspection, document: dict[str, Any], sequence: int, units: str
) -> dict[str, Any]:
    """Places with their entries; what most entries have in common is said once."""
    known = dict(_last_said(inspection, sequence))
    places: list[dict[str, Any]] = [
        {
            "place": place or say("document"),
            "rows": [
                {
                    "label": one.label,
                    "value": one.value,
                    "long": any(len(word) > LONG for word in one.value.split()),
                    "said": _of(one.path, known),
                }
                for one in entries
            ],
        }
        for place, entries in entries_by_place(record_entries(document, units))
    ]
    said = Counter(row["said"] for place in places for row in place["rows"])
    mostly = said.most_common(1)[0][0] if said else ""
    for place in places:
        for row in place["rows"]:
            row["said"] = "" if row["said"] == mostly else row["said"]
    return {"places": places, "mostly": mostly}


def _last_said(inspection: Inspection, sequence: int) -> Iterator[tuple[str, str]]:
    """By path as cylinders are numbered today: who said last what stands there."""
    numbers = inspection.numbers
    first = sorted(numbers)
    rows = inspection.observations.filter(sequence__lte=sequence, held=False)
    for row in rows.select_related("by").defer("value").order_by("sequence"):
        path, _ = followed(row.place, None, first, numbers)
        who = row.by.name if row.by else say("imported")
        yield path, f"{who}, {(row.made or row.at):%Y-%m-%d}"


def _of(path: str, known: Mapping[str, str]) -> str:
    """Who said what stands at a path, or the whole that it is part of."""
    while path:
        if path in known:
            return known[path]
        path = path.rpartition("/")[0]
    return ""
