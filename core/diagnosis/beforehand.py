"""What is known before anything is looked at: complaints, recent work, distance on the plugs."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from core.diagnosis.evidence import record_of
from core.knowledge import knowledge
from core.quantities import Dimension, Quantity

FRESH = 0.25

Odds = dict[str, float]


@dataclass(frozen=True)
class Known:
    """One thing known beforehand: the table entry that says what it does to the odds, its words."""

    entry: str
    path: str
    text: str

    @property
    def odds(self) -> Odds:
        """Factors on the odds of faults."""
        modifier = knowledge().modifiers.get(self.entry)
        return dict(modifier.odds) if modifier else {}


def known_of_engine(document: dict[str, Any]) -> list[Known]:
    """What concerns the whole engine, each thing once."""
    inspection = document.get("inspection", {})
    found = [
        Known(f"complaint/{name}", "/inspection/complaints", f"complaint of {_spoken(name)}")
        for name in inspection.get("complaints", [])
    ]
    found += [
        Known(f"recent-work/{name}", "/inspection/recent_work", f"recent work: {name}")
        for name in inspection.get("recent_work", [])
    ]
    if document.get("house_rules", {}).get("mixture") == "touch-rich":
        text = "this house runs a touch rich on purpose"
        found.append(Known("house/touch-rich", "/house_rules/mixture", text))
    slow = knowledge().pressure["conditions"]["slow_rpm"]
    for test in document.get("tests", {}).get("compression", []):
        base = f"/tests/compression/{test.get('id', '')}"
        if test.get("engine_temperature") == "cold":
            found.append(Known("test/cold", f"{base}/engine_temperature", "it was read cold"))
        if test.get("throttle") == "closed":
            text = "it was read with the throttle closed"
            found.append(Known("test/closed-throttle", f"{base}/throttle", text))
        if test.get("cranking_rpm", slow) < slow:
            text = f"it was cranked at {test['cranking_rpm']:g} rpm only"
            found.append(Known("test/slow", f"{base}/cranking_rpm", text))
    return list({known.entry: known for known in reversed(found)}.values())[::-1]


def known_of_cylinder(document: dict[str, Any], cylinder: int) -> list[Known]:
    """What concerns one cylinder's plug."""
    share = plug_age(document, cylinder)
    path = f"/cylinders/{cylinder}/plug/distance"
    if share is not None and share > 1:
        return [Known("plugs/overdue", path, f"its plug has run {share:.1f} times its interval")]
    if share is not None and share < FRESH:
        return [Known("plugs/fresh", path, "its plug has run less than a quarter of its interval")]
    return []


def plug_age(document: dict[str, Any], cylinder: int) -> float | None:
    """Distance on a plug over its interval; None where they cannot be compared."""
    interval = document["engine"].get("specification", {}).get("plug_interval")
    record = record_of(document, cylinder)
    run = record.get("plug", {}).get("distance") or document.get("inspection", {}).get(
        "plug_distance"
    )
    if (
        not interval
        or not run
        or ("h" in (interval["unit"], run["unit"])) != (interval["unit"] == run["unit"] == "h")
    ):
        return None
    allowed = Quantity.read(interval, Dimension.DISTANCE).si
    return Quantity.read(run, Dimension.DISTANCE).si / allowed if allowed > 0 else None


def odds_of(known: Iterable[Known]) -> Odds:
    """The factors of several things known, multiplied."""
    odds: Odds = {}
    for one in known:
        for fault, factor in one.odds.items():
            odds[fault] = odds.get(fault, 1.0) * factor
    return odds


def _spoken(complaint: str) -> str:
    return complaint.replace("-", " ")
