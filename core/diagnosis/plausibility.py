"""What a person should look at before the answer is believed: records that cannot both be right,
tests run badly or not to the end, and slips of the pen.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from statistics import median_high
from typing import Any

from core.caution import Caution
from core.diagnosis.beforehand import plug_age
from core.diagnosis.kept import not_weighed
from core.diagnosis.leakdowns import disagrees
from core.diagnosis.level import Expectation
from core.diagnosis.slips import gap_slips, numbering_slips, pressure_slips, torque_slips
from core.document.readings import final_of
from core.engine.layout import Arrangement
from core.knowledge import knowledge
from core.quantities import percent, pressure_pa
from core.refit.sheet import refit_cautions

WET_BELOW_DRY = 0.95


def warnings(
    document: dict[str, Any], expected: Expectation, arrangement: Arrangement
) -> list[Caution]:
    """Every warning of a document, what is simply overdue first."""
    found: list[Caution] = []
    found.extend(overdue_plugs(document, arrangement))
    found.extend(gap_slips(document))
    found.extend(pressure_slips(document, expected))
    found.extend(test_conditions(document))
    found.extend(uneven_strokes(document))
    found.extend(contradictions(document))
    found.extend(little_weight(document))
    found.extend(torque_slips(document))
    found.extend(numbering_slips(document))
    found.extend(incomplete(document, arrangement))
    found.extend(out_of_scope(document))
    found.extend(refit_cautions(document))
    found.extend(not_weighed(document))
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
            f"{where} past their interval, by up to {percent(most - 1)}: renew them before "
            "anything else is blamed."
        )
        yield Caution("overdue", "/inspection/plug_distance", text)


def _listed(numbers: Iterable[int]) -> str:
    return ", ".join(str(number) for number in sorted(numbers))


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


def uneven_strokes(document: dict[str, Any]) -> Iterator[Caution]:
    """A test in which some cylinders were cranked for more strokes than others.

    A single stroke is a first puff that was noted, not a count.
    """
    for test in document.get("tests", {}).get("compression", []):
        counts = {
            item["cylinder"]: len(item["strokes"])
            for item in test.get("readings", [])
            if len(item.get("strokes", [])) > 1
        }
        usual = test.get("puffs") or (median_high(counts.values()) if counts else 0)
        off = [number for number, count in counts.items() if count != usual]
        if off:
            told = "; ".join(f"{number} had {counts[number]}" for number in sorted(off))
            yield Caution(
                "uneven-strokes",
                f"/tests/compression/{test.get('id', '')}/puffs",
                f"Cranked unevenly: {told} strokes where the test says {usual}. Fewer strokes read "
                "lower; give each cylinder the same.",
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
