"""What is known before anything is looked at: complaints, recent work, distance on the plugs."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from core.document.records import Document
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


def known_of_engine(document: Document) -> list[Known]:
    """What concerns the whole engine, each thing once."""
    inspection = document.inspection
    found = [
        Known(f"complaint/{name}", "/inspection/complaints", f"complaint of {_spoken(name)}")
        for name in inspection.complaints
    ]
    found += [
        Known(f"recent-work/{name}", "/inspection/recent_work", f"recent work: {name}")
        for name in inspection.recent_work
    ]
    if document.house_rules.mixture == "touch-rich":
        text = "this house runs a touch rich on purpose"
        found.append(Known("house/touch-rich", "/house_rules/mixture", text))
    slow = knowledge().pressure["conditions"]["slow_rpm"]
    for test in document.tests.compression:
        base = f"/tests/compression/{test.id}"
        if test.engine_temperature == "cold":
            found.append(Known("test/cold", f"{base}/engine_temperature", "it was read cold"))
        if test.throttle == "closed":
            text = "it was read with the throttle closed"
            found.append(Known("test/closed-throttle", f"{base}/throttle", text))
        if test.cranking_rpm is not None and test.cranking_rpm < slow:
            text = f"it was cranked at {test.cranking_rpm:g} rpm only"
            found.append(Known("test/slow", f"{base}/cranking_rpm", text))
    return list({known.entry: known for known in reversed(found)}.values())[::-1]


def known_of_cylinder(document: Document, cylinder: int) -> list[Known]:
    """What concerns one cylinder's plug."""
    share = plug_age(document, cylinder)
    path = f"/cylinders/{cylinder}/plug/distance"
    if share is not None and share > 1:
        return [Known("plugs/overdue", path, f"its plug has run {share:.1f} times its interval")]
    if share is not None and share < FRESH:
        return [Known("plugs/fresh", path, "its plug has run less than a quarter of its interval")]
    return []


def plug_age(document: Document, cylinder: int) -> float | None:
    """Distance on a plug over its interval; None where they cannot be compared."""
    interval = document.engine.specification.plug_interval
    run = document.cylinder(cylinder).plug.distance or document.inspection.plug_distance
    if interval is None or run is None or (interval.unit == "h") != (run.unit == "h"):
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
