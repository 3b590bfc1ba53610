"""Records that cannot both be right, and figures that were probably written in another unit.

A warning names the likely intent and leaves the value alone. What is probably a slip is kept
out of the evidence, unless a dead cylinder would read the same: then the model weighs both.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from statistics import median
from typing import Any

from core.diagnosis.evidence import specified_gap_mm
from core.diagnosis.leakdowns import disagrees
from core.diagnosis.level import Expectation
from core.engine.layout import Arrangement
from core.knowledge import knowledge
from core.quantities import UNITS, Dimension, Quantity, length_mm, pressure_pa

PLAUSIBLE_GAP_MM = (0.2, 2.5)
GAP_FACTOR = 2.2
SUSPICIOUS_PRESSURE = (0.2, 2.5)
MEANT_WITHIN = (0.55, 1.6)
WET_BELOW_DRY = 0.95


@dataclass(frozen=True)
class Caution:
    """Something about the record that a person should look at."""

    code: str
    path: str
    text: str
    doubts: bool = False


def warnings(
    document: dict[str, Any], expected: Expectation, arrangement: Arrangement
) -> list[Caution]:
    """Every warning of a document, slips first."""
    found: list[Caution] = []
    found.extend(gap_slips(document))
    found.extend(pressure_slips(document, expected))
    found.extend(test_conditions(document))
    found.extend(contradictions(document))
    found.extend(unweighed(document))
    found.extend(incomplete(document, arrangement))
    found.extend(out_of_scope(document))
    return found


def gap_slips(document: dict[str, Any]) -> Iterator[Caution]:
    """Gaps that fit only in another unit."""
    specified = specified_gap_mm(document)
    for record in document.get("cylinders", []):
        for field in ("gap", "gap_passes", "gap_refuses"):
            raw = record.get("plug", {}).get(field)
            if raw is None:
                continue
            value = length_mm(raw)
            low, high = PLAUSIBLE_GAP_MM
            if specified:
                low, high = specified / GAP_FACTOR, specified * GAP_FACTOR
            if low <= value <= high:
                continue
            meant = _meant(raw, Dimension.LENGTH, low / 1e3, high / 1e3)
            path = f"/cylinders/{record['number']}/plug/{field}"
            written = f"{raw['value']:g} {raw['unit']}"
            if meant:
                text = f"{written} is no plug gap; {raw['value']:g} {meant} would be"
                yield Caution("unit-slip", path, text, doubts=True)
            elif not PLAUSIBLE_GAP_MM[0] <= value <= PLAUSIBLE_GAP_MM[1]:
                text = f"{written} is no plug gap; check the figure and its unit"
                yield Caution("unit-slip", path, text, doubts=True)


def _meant(raw: dict[str, Any], dimension: Dimension, low: float, high: float) -> str | None:
    """The unit in which the same number would make sense, if there is one."""
    for unit in UNITS[dimension]:
        if unit != raw["unit"]:
            si = Quantity(raw["value"], unit, dimension).si
            if low <= si <= high:
                return unit
    return None


def pressure_slips(document: dict[str, Any], expected: Expectation) -> Iterator[Caution]:
    """Readings that fit only in another unit.

    When a whole test is off it is a slip and no evidence; a single reading far below the others
    may be a dead cylinder, so it is asked about and stays in the evidence.
    """
    for test in document.get("tests", {}).get("compression", []):
        given = [
            (item["cylinder"], item["pressure"])
            for item in test.get("readings", [])
            if "pressure" in item
        ]
        if not given:
            continue
        values = [pressure_pa(raw) for _, raw in given]
        low, high = (bound * expected.pressure_pa for bound in SUSPICIOUS_PRESSURE)
        meant_low, meant_high = (bound * expected.pressure_pa for bound in MEANT_WITHIN)
        whole = max(values) < low or min(values) > high
        middle = median(values)
        for (cylinder, raw), value in zip(given, values, strict=True):
            path = f"/tests/compression/{test.get('id', '')}/readings/{cylinder}/pressure"
            if not whole and low * 0.75 <= value <= high:
                continue
            reference = (meant_low, meant_high) if whole else (0.6 * middle, 1.6 * middle)
            meant = _meant(raw, Dimension.PRESSURE, *reference)
            written = f"{raw['value']:g} {raw['unit']}"
            if meant:
                ask = f"was {raw['value']:g} {meant} meant?"
                tail = "" if whole else " If not, this cylinder is all but dead."
                text = f"{written} is far from what this engine shows; {ask}{tail}"
                too_high = value > high
                yield Caution("unit-slip", path, text, doubts=whole or too_high)
            elif value > high:
                text = f"{written} is more than this engine can show; check the figure and its unit"
                yield Caution("unit-slip", path, text, doubts=True)


def test_conditions(document: dict[str, Any]) -> Iterator[Caution]:
    """A test that was run cold, slowly or with the throttle closed."""
    slow = knowledge().pressure["conditions"]["slow_rpm"]
    for test in document.get("tests", {}).get("compression", []):
        base = f"/tests/compression/{test.get('id', '')}"
        if test.get("engine_temperature") == "cold":
            yield Caution(
                "cold-test",
                f"{base}/engine_temperature",
                "Read cold: all readings lie lower than warm ones; compare them with each other, "
                "not with the specification.",
            )
        if test.get("cranking_rpm", slow) < slow:
            yield Caution(
                "slow-cranking",
                f"{base}/cranking_rpm",
                f"Cranked at {test['cranking_rpm']:g} rpm: under {slow:g} every leak has more "
                "time. Charge the battery and read again.",
            )
        if test.get("throttle") == "closed":
            yield Caution(
                "closed-throttle",
                f"{base}/throttle",
                "Read with the throttle closed: the cylinders could not fill. Hold it open and "
                "read again.",
            )


def contradictions(document: dict[str, Any]) -> Iterator[Caution]:
    """Two records that cannot both be right."""
    compression = document.get("tests", {}).get("compression", [])
    dry = _by_cylinder(compression, "dry")
    for path, cylinder, wet in _readings(compression, "wet"):
        if cylinder in dry and wet < WET_BELOW_DRY * dry[cylinder]:
            text = f"Cylinder {cylinder} reads lower wet than dry; oil cannot do that. Read again."
            yield Caution("inconsistent", path, text)
    for test in compression:
        for item in test.get("readings", []):
            strokes = [pressure_pa(raw) for raw in item.get("strokes", [])]
            final = pressure_pa(item["pressure"]) if "pressure" in item else None
            path = f"/tests/compression/{test.get('id', '')}/readings/{item['cylinder']}/strokes"
            if strokes and final is not None and strokes[0] > 1.02 * final:
                text = f"Cylinder {item['cylinder']}: the first puff is above the final reading."
                yield Caution("inconsistent", path, text)
    for test in document.get("tests", {}).get("leakdown", []):
        for item in test.get("readings", []):
            if ("held" in item or "percent" in item) and disagrees(test, item):
                path = f"/tests/leakdown/{test.get('id', '')}/readings/{item['cylinder']}/held"
                text = (
                    f"Cylinder {item['cylinder']}: percent, held pressure and supply do not agree; "
                    "none of them is used."
                )
                yield Caution("inconsistent", path, text)
    for record in document.get("cylinders", []):
        plug = record.get("plug", {})
        path = f"/cylinders/{record['number']}/plug/wetness"
        if plug.get("wetness") == "dry" and plug.get("wet_with") not in (None, "unknown"):
            text = f"Cylinder {record['number']} is dry and wet with {plug['wet_with']} at once."
            yield Caution("inconsistent", path, text)


def unweighed(document: dict[str, Any]) -> Iterator[Caution]:
    """What is kept and shown but carries no weight yet, and why."""
    for test in document.get("tests", {}).get("compression", []):
        if any(item.get("strokes") for item in test.get("readings", [])):
            yield Caution(
                "first-puff",
                f"/tests/compression/{test.get('id', '')}/readings",
                "First puffs are kept, not weighed: leaks of one size climb alike whatever the "
                "path, and the first puff depends mostly on the hose. Compare it only with the "
                "same gauge's other cylinders.",
            )


def _readings(compression: list[dict[str, Any]], kind: str) -> Iterator[tuple[str, int, float]]:
    for test in compression:
        for item in test.get("readings", []):
            if test["kind"] == kind and "pressure" in item:
                base = f"/tests/compression/{test.get('id', '')}/readings"
                yield (
                    f"{base}/{item['cylinder']}/pressure",
                    item["cylinder"],
                    pressure_pa(item["pressure"]),
                )


def _by_cylinder(compression: list[dict[str, Any]], kind: str) -> dict[int, float]:
    return {cylinder: value for _, cylinder, value in _readings(compression, kind)}


def incomplete(document: dict[str, Any], arrangement: Arrangement) -> Iterator[Caution]:
    """Tests begun on some cylinders only, and neighbours that nobody named."""
    everyone = set(arrangement.cylinders)
    for test in document.get("tests", {}).get("compression", []):
        read = {item["cylinder"] for item in test.get("readings", []) if "pressure" in item}
        if test["kind"] == "dry" and read and read != everyone:
            missing = ", ".join(str(number) for number in sorted(everyone - read))
            path = f"/tests/compression/{test.get('id', '')}/readings"
            text = f"Dry compression was not read on {missing}; peers are fewer for it."
            yield Caution("incomplete", path, text)
    if not arrangement.neighbours_known and len(everyone) > 2:
        yield Caution(
            "incomplete",
            "/engine/banks",
            "The banks are not entered, so nobody knows which cylinders are neighbours; a gasket "
            "between two cannot be suspected.",
        )
    for record in document.get("cylinders", []):
        plug = record.get("plug", {})
        if plug.get("wetness") in ("wet", "damp") and plug.get("wet_with") in (None, "unknown"):
            yield Caution(
                "incomplete",
                f"/cylinders/{record['number']}/plug/wet_with",
                f"Cylinder {record['number']} is {plug['wetness']}, but with what? Fuel is thin, "
                "smells and dries off a warm plug; oil is greasy and stays.",
            )


def out_of_scope(document: dict[str, Any]) -> Iterator[Caution]:
    """Sounds that the faults weighed here do not make."""
    for item in document.get("tests", {}).get("noise", []):
        if item.get("kind") == "sharp-tap":
            text = (
                f"A sharp tap at cylinder {item['cylinder']} is valve gear or bearing, not a plug: "
                "outside what is weighed here."
            )
            yield Caution("outside-scope", f"/tests/noise/{item['cylinder']}", text)
