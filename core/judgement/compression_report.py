"""What the acceptance schools say of the readings, and the band that dry ones were expected in."""

from __future__ import annotations

from collections.abc import Mapping

from core.assessment import CompressionReport, Expected, LeakdownReport, SchoolVerdict
from core.comparison.leakdown_schools import DEFAULT as LEAKDOWN_DEFAULT
from core.comparison.leakdown_schools import leakdown_verdicts
from core.comparison.schools import DEFAULT, Verdict, verdicts
from core.document.records import Document
from core.evidence.pressures import Reading
from core.hidden.level import Expectation
from core.quantities import Dimension, Figure, from_si

DISPLAY_UNIT = "psi"


def dry_readings(readings: list[Reading]) -> dict[int, float]:
    """The last dry reading of each cylinder. [Pa]"""
    return {reading.cylinder: reading.pressure_pa for reading in readings if reading.kind == "dry"}


def compression_report(
    document: Document, expected: Expectation, dry: Mapping[int, float]
) -> CompressionReport:
    """The contract's `compression`, in the unit that this inspection's people read in.

    Parameters
    ----------
    document : Document
        Its house rule says which school decides.
    expected : Expectation
        Of a healthy cylinder on this test.
    dry : mapping of cylinder to pressure
        Final gauge pressures. [Pa]
    """
    specification = document.engine.specification
    house = document.house_rules.compression or DEFAULT
    unit = display_unit(document)
    rules = _told(verdicts(dict(dry), specification, unit), house)
    low, high = (
        Figure(float(f"{from_si(pressure, unit, Dimension.PRESSURE).value:.3g}"), unit)
        for pressure in (expected.low_pa, expected.high_pa)
    )
    return CompressionReport(rules, Expected(low, high, expected.basis))


def leakdown_report(document: Document, lost: Mapping[int, float]) -> LeakdownReport:
    """What the leak-down schools say of what each cylinder lost; the house's own decides."""
    house = document.house_rules.leakdown or LEAKDOWN_DEFAULT
    return LeakdownReport(_told(leakdown_verdicts(lost), house))


def _told(said: list[Verdict], house: str) -> tuple[SchoolVerdict, ...]:
    return tuple(
        SchoolVerdict(
            one.rule, one.label, one.verdict, one.failing, one.detail, decides=one.rule == house
        )
        for one in said
    )


def display_unit(document: Document) -> str:
    """The unit of pressure in which this inspection's people read."""
    for test in document.tests.compression:
        for reading in test.readings:
            if reading.pressure:
                return reading.pressure.unit
    least = document.engine.specification.compression_min
    return least.unit if least else DISPLAY_UNIT
