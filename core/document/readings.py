"""What a reading of the document says in the end."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from core.knowledge import knowledge
from core.quantities import PSI_PA, pressure_pa


def final_of(item: Mapping[str, Any]) -> dict[str, Any] | None:
    """What the gauge showed in the end: the final reading, or else the last stroke noted.

    A first puff alone is no final reading.
    """
    strokes: list[dict[str, Any]] = item.get("strokes", [])
    return item.get("pressure") or (strokes[-1] if len(strokes) > 1 else None)


def held_of(test: Mapping[str, Any], item: Mapping[str, Any]) -> tuple[float, float] | None:
    """Supply and held pressure of a reading, from whichever way it was written. [Pa]"""
    known = knowledge().pressure["leakdown"]
    supply = pressure_pa(test["supply"]) if "supply" in test else known["supply_psi"] * PSI_PA
    if "held" in item:
        return supply, pressure_pa(item["held"])
    if "percent" in item:
        return supply, supply * (1 - item["percent"] / 100)
    return None
