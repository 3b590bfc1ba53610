"""What is known before anything is looked at: complaints, recent work, distance on the plugs."""

from __future__ import annotations

from collections import defaultdict
from typing import Any

from core.diagnosis.evidence import record_of
from core.knowledge import knowledge
from core.quantities import Dimension, Quantity

FRESH = 0.25

Odds = dict[str, float]


def engine_odds(document: dict[str, Any]) -> Odds:
    """Factors on the odds of faults, from what concerns the whole engine."""
    inspection = document.get("inspection", {})
    reasons = [f"complaint/{name}" for name in inspection.get("complaints", [])]
    reasons += [f"recent-work/{name}" for name in inspection.get("recent_work", [])]
    slow = knowledge().pressure["conditions"]["slow_rpm"]
    for test in document.get("tests", {}).get("compression", []):
        if test.get("engine_temperature") == "cold":
            reasons.append("test/cold")
        if test.get("throttle") == "closed":
            reasons.append("test/closed-throttle")
        if test.get("cranking_rpm", slow) < slow:
            reasons.append("test/slow")
    return _multiplied(dict.fromkeys(reasons))


def cylinder_odds(document: dict[str, Any], cylinder: int, engine: Odds) -> Odds:
    """The engine's factors with what is known of one cylinder's plug."""
    share = plug_age(document, cylinder)
    if share is None:
        return engine
    reason = "plugs/overdue" if share > 1 else "plugs/fresh" if share < FRESH else None
    if reason is None:
        return engine
    own = _multiplied({reason: None})
    return {name: engine.get(name, 1.0) * own.get(name, 1.0) for name in {**engine, **own}}


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


def _multiplied(reasons: dict[str, None]) -> Odds:
    odds: Odds = defaultdict(lambda: 1.0)
    for reason in reasons:
        modifier = knowledge().modifiers.get(reason)
        for fault, factor in (modifier.odds if modifier else {}).items():
            odds[fault] *= factor
    return dict(odds)
