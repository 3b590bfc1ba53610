"""What a reading of the document says in the end."""

from __future__ import annotations

from core.document.records import CompressionReading, LeakdownReading, LeakdownTest
from core.knowledge import knowledge
from core.quantities import PSI_PA, Figure, pressure_pa

DISQUALIFIED = frozenset({"doubtful", "seal-leak"})


def made(reading: CompressionReading) -> bool:
    """Whether a reading counts: one whose seal hissed, or that its reader doubts, was not made."""
    return reading.quality not in DISQUALIFIED


def final_of(reading: CompressionReading) -> Figure | None:
    """What the gauge showed in the end: the final reading, or else the last stroke noted.

    A first puff alone is no final reading.
    """
    last = reading.strokes[-1] if len(reading.strokes) > 1 else None
    return reading.pressure or last


def held_of(test: LeakdownTest, reading: LeakdownReading) -> tuple[float, float] | None:
    """Supply and held pressure of a reading, from whichever way it was written. [Pa]"""
    known = knowledge().pressure["leakdown"]
    supply = pressure_pa(test.supply) if test.supply else known["supply_psi"] * PSI_PA
    if reading.held is not None:
        return supply, pressure_pa(reading.held)
    if reading.percent is not None:
        return supply, supply * (1 - reading.percent / 100)
    return None
