"""What the acceptance schools say of the readings, and the band that dry ones were expected in."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from core.comparison.leakdown_schools import DEFAULT as LEAKDOWN_DEFAULT
from core.comparison.leakdown_schools import leakdown_verdicts, lost_percent
from core.comparison.schools import DEFAULT, Verdict, verdicts
from core.diagnosis.level import Expectation
from core.diagnosis.pressures import Reading
from core.quantities import Dimension, from_si

DISPLAY_UNIT = "psi"


def dry_readings(readings: list[Reading]) -> dict[int, float]:
    """The last dry reading of each cylinder. [Pa]"""
    return {reading.cylinder: reading.pressure_pa for reading in readings if reading.kind == "dry"}


def compression_report(
    document: Mapping[str, Any], expected: Expectation, dry: Mapping[int, float]
) -> dict[str, Any]:
    """The contract's `compression`, in the unit that this inspection's people read in.

    Parameters
    ----------
    document : mapping
        A checked document; its house rule says which school decides.
    expected : Expectation
        Of a healthy cylinder on this test.
    dry : mapping of cylinder to pressure
        Final gauge pressures. [Pa]
    """
    specification = document["engine"].get("specification", {})
    house = document.get("house_rules", {}).get("compression", DEFAULT)
    unit = _unit(document)
    rules = _told(verdicts(dict(dry), specification, unit), house)
    band = {
        name: {
            "value": float(f"{from_si(pressure, unit, Dimension.PRESSURE).value:.3g}"),
            "unit": unit,
        }
        for name, pressure in (("low", expected.low_pa), ("high", expected.high_pa))
    }
    return {"rules": rules, "expected": {**band, "basis": expected.basis}}


def leakdown_report(document: Mapping[str, Any]) -> dict[str, Any]:
    """What the leak-down schools say; the house's own decides."""
    house = document.get("house_rules", {}).get("leakdown", LEAKDOWN_DEFAULT)
    return {"rules": _told(leakdown_verdicts(lost_percent(document)), house)}


def _told(said: list[Verdict], house: str) -> list[dict[str, Any]]:
    return [
        {
            "rule": one.rule,
            "label": one.label,
            "verdict": one.verdict,
            "failing": list(one.failing),
            "detail": one.detail,
            "decides": one.rule == house,
        }
        for one in said
    ]


def _unit(document: Mapping[str, Any]) -> str:
    for test in document.get("tests", {}).get("compression", []):
        for item in test.get("readings", []):
            if "pressure" in item:
                return str(item["pressure"]["unit"])
    least = document["engine"].get("specification", {}).get("compression_min")
    return str(least["unit"]) if least else DISPLAY_UNIT
