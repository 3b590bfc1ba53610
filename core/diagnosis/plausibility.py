"""Records that cannot both be right, and figures that were probably written in another unit.

A warning names the likely intent and leaves the value alone. What is probably a slip is kept
out of the evidence, unless a dead cylinder would read the same: then the model weighs both.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from itertools import pairwise
from statistics import median
from typing import Any

from core.diagnosis.beforehand import plug_age
from core.diagnosis.evidence import MISFIRE_CODE, final_of, specified_gap_mm
from core.diagnosis.leakdowns import disagrees
from core.diagnosis.level import Expectation
from core.engine.layout import Arrangement
from core.knowledge import knowledge
from core.quantities import UNITS, Dimension, Quantity, length_mm, pressure_pa

PLAUSIBLE_GAP_MM = (0.2, 2.5)
GAP_FACTOR = 2.2
OTHER_UNIT_FACTOR = 1.2  # A gap in another unit than the specification's is asked about from here.
PLAUSIBLE_TORQUE_NM = (4.0, 60.0)
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
    """Every warning of a document, what is simply overdue first."""
    found: list[Caution] = []
    found.extend(overdue_plugs(document, arrangement))
    found.extend(gap_slips(document))
    found.extend(pressure_slips(document, expected))
    found.extend(test_conditions(document))
    found.extend(contradictions(document))
    found.extend(little_weight(document))
    found.extend(torque_slips(document))
    found.extend(numbering_slips(document))
    found.extend(incomplete(document, arrangement))
    found.extend(out_of_scope(document))
    return found


def overdue_plugs(document: dict[str, Any], arrangement: Arrangement) -> Iterator[Caution]:
    """Plugs past their interval: much trouble is only that, so it is said first."""
    ages = {number: plug_age(document, number) for number in arrangement.cylinders}
    late = {number: age for number, age in ages.items() if age is not None and age > 1}
    if late:
        where = (
            "All plugs are"
            if len(late) == len(ages)
            else f"Overdue on {_listed(late)}: the plugs are"
        )
        most = max(late.values())
        text = (
            f"{where} past their interval, by up to {most - 1:.0%}: renew them before anything "
            "else is blamed."
        )
        yield Caution("overdue", "/inspection/plug_distance", text.replace("%", " %"))


def _listed(numbers: Iterable[int]) -> str:
    return ", ".join(str(number) for number in sorted(numbers))


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
            path = f"/cylinders/{record['number']}/plug/{field}"
            written = f"{raw['value']:g} {raw['unit']}"
            if low <= value <= high:
                yield from _beside_specification(document, raw, path)
                continue
            meant = _meant(raw, Dimension.LENGTH, low / 1e3, high / 1e3)
            if meant:
                text = f"{written} is no plug gap; {raw['value']:g} {meant} would be"
                yield Caution("unit-slip", path, text, doubts=True)
            elif not PLAUSIBLE_GAP_MM[0] <= value <= PLAUSIBLE_GAP_MM[1]:
                text = f"{written} is no plug gap; check the figure and its unit"
                yield Caution("unit-slip", path, text, doubts=True)


def _beside_specification(
    document: dict[str, Any], raw: dict[str, Any], path: str
) -> Iterator[Caution]:
    """A gap far from a specification that is written in another unit: worn, or a slip?"""
    specification = document["engine"].get("specification", {})
    given = specification.get("gap_max") or specification.get("gap_min")
    if given is None or given["unit"] == raw["unit"]:
        return
    value, wanted = length_mm(raw), length_mm(given)
    if 1 / OTHER_UNIT_FACTOR <= value / wanted <= OTHER_UNIT_FACTOR:
        return
    text = (
        f"{raw['value']:g} {raw['unit']} is {value:.2g} mm beside {given['value']:g} "
        f"{given['unit']} specified: is the gap so far off, or was it read in another unit?"
    )
    yield Caution("unit-slip", path, text)


def _meant(raw: dict[str, Any], dimension: Dimension, low: float, high: float) -> str | None:
    """The unit in which the same number would make sense, if there is one."""
    system = raw["unit"].partition(".")[0]  # Inch-pounds for foot-pounds before newton metres.
    for unit in sorted(UNITS[dimension], key=lambda one: not one.startswith(f"{system}.")):
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
        finals = [(item["cylinder"], final_of(item)) for item in test.get("readings", [])]
        given = [(cylinder, raw) for cylinder, raw in finals if raw is not None]
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


def little_weight(document: dict[str, Any]) -> Iterator[Caution]:
    """What carries little weight, and why."""
    for test in document.get("tests", {}).get("compression", []):
        if any(item.get("strokes") for item in test.get("readings", [])):
            yield Caution(
                "first-puff",
                f"/tests/compression/{test.get('id', '')}/readings",
                "First puffs get little weight: leaks of one size climb alike whatever the path, "
                "and the first puff depends mostly on the hose. They are compared only with the "
                "same gauge's other cylinders.",
            )


def torque_slips(document: dict[str, Any]) -> Iterator[Caution]:
    """Plug torques that fit only in another unit."""
    specification = document["engine"].get("specification", {})
    low, high = PLAUSIBLE_TORQUE_NM
    for field in ("torque_new", "torque_reused"):
        raw = specification.get(field)
        if raw is None or low <= Quantity.read(raw, Dimension.TORQUE).si <= high:
            continue
        meant = _meant(raw, Dimension.TORQUE, low, high)
        written = f"{raw['value']:g} {raw['unit']}"
        ask = f"was {raw['value']:g} {meant} meant?" if meant else "check the figure and its unit."
        path = f"/engine/specification/{field}"
        yield Caution(
            "unit-slip",
            path,
            f"{written} would strip a spark plug's thread; {ask}"
            if Quantity.read(raw, Dimension.TORQUE).si > high
            else f"{written} would not hold a spark plug; {ask}",
        )


def numbering_slips(document: dict[str, Any]) -> Iterator[Caution]:
    """Cylinders that a code names and this engine does not have; two spellings of one engine."""
    engine = document["engine"]
    for code in document.get("inspection", {}).get("trouble_codes", []):
        match = MISFIRE_CODE.match(code)
        if match and int(match.group(1)) > engine["cylinders"]:
            text = (
                f"{code} names cylinder {int(match.group(1))}, and this engine has "
                f"{engine['cylinders']}: is the code, or the number of cylinders, mistaken?"
            )
            yield Caution("numbering", "/inspection/trouble_codes", text)
    banks = [bank["cylinders"] for bank in engine.get("banks", [])]
    order = engine.get("firing_order", [])
    if len(banks) == 2 and len(banks[0]) == len(banks[1]) and len(order) == engine["cylinders"]:
        side = {number: at for at, bank in enumerate(banks) for number in bank}
        same = sum(side[a] == side[b] for a, b in pairwise([*order, order[0]]))
        if same >= len(order) - 2 and len(order) > 2:
            text = (
                "Nearly all of one bank fires before the other: are the banks, or the numbers in "
                "them, as on this engine?"
            )
            yield Caution("numbering", "/engine/firing_order", text)


def _readings(compression: list[dict[str, Any]], kind: str) -> Iterator[tuple[str, int, float]]:
    for test in compression:
        for item in test.get("readings", []):
            raw = final_of(item)
            if test["kind"] == kind and raw is not None:
                path = (
                    f"/tests/compression/{test.get('id', '')}/readings/{item['cylinder']}/pressure"
                )
                yield path, item["cylinder"], pressure_pa(raw)


def _by_cylinder(compression: list[dict[str, Any]], kind: str) -> dict[int, float]:
    return {cylinder: value for _, cylinder, value in _readings(compression, kind)}


def incomplete(document: dict[str, Any], arrangement: Arrangement) -> Iterator[Caution]:
    """Tests begun on some cylinders only, and neighbours that nobody named."""
    everyone = set(arrangement.cylinders)
    for name, path, read in _begun(document):
        if read and read != everyone:
            missing = _listed(everyone - read)
            text = f"{name} was not taken on {missing}; peers are fewer for it."
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


def _begun(document: dict[str, Any]) -> Iterator[tuple[str, str, set[int]]]:
    """Tests that live from comparing cylinders: name, path, and on which they were done."""
    tests = document.get("tests", {})
    for test in tests.get("compression", []):
        path = f"/tests/compression/{test.get('id', '')}/readings"
        read = {item["cylinder"] for item in test.get("readings", []) if final_of(item)}
        yield f"{test['kind'].capitalize()} compression", path, read
    for field, name, figures in (
        ("balance", "The cut-out test", ("felt", "rpm_drop")),
        ("misfires", "The misfire count", ("count",)),
    ):
        items = tests.get(field, [])
        done = {item["cylinder"] for item in items if any(figure in item for figure in figures)}
        yield name, f"/tests/{field}", done


def out_of_scope(document: dict[str, Any]) -> Iterator[Caution]:
    """Sounds that the faults weighed here do not make."""
    for item in document.get("tests", {}).get("noise", []):
        if item.get("kind") == "sharp-tap":
            text = (
                f"A sharp tap at cylinder {item['cylinder']} is valve gear or bearing, not a plug: "
                "outside what is weighed here."
            )
            yield Caution("outside-scope", f"/tests/noise/{item['cylinder']}", text)
