"""A shop's house rules: named, versioned, never changed once made."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from core.document import FORMAT, VERSION, check_document
from server.inspections.models import Inspection
from server.shops.models import HouseRules, Shop, User
from server.weigher import assess

MOST_COMPARED = 25  # The newest inspections that a change is tried on.


def in_force(shop: Shop) -> HouseRules | None:
    """The newest version of a shop's rules."""
    return shop.rules.order_by("-version").first()


def checked(rules: dict[str, Any]) -> dict[str, Any]:
    """House rules of the contract; refused by the core otherwise."""
    engine = {"cycle": "four-stroke", "layout": "single", "cylinders": 1}
    raw = {"format": FORMAT, "version": VERSION, "engine": engine, "house_rules": rules}
    known: dict[str, Any] = check_document(raw).get("house_rules", {})
    return known


@transaction.atomic
def change(*, shop: Shop, by: User, rules: dict[str, Any]) -> HouseRules:
    """Make a new version; inspections opened from now on are judged by it."""
    own = checked(rules)
    Shop.objects.select_for_update().get(pk=shop.pk)
    last = in_force(shop)
    if last and last.rules == own:
        return last
    version = last.version + 1 if last else 1
    return HouseRules.objects.create(shop=shop, version=version, rules=own, by=by)


def would_change(*, user: User, rules: dict[str, Any]) -> list[dict[str, Any]]:
    """What other rules would make of the newest inspections: only those they change."""
    own = checked(rules)
    rows = Inspection.objects.visible_to(user).select_related("engine")[:MOST_COMPARED]
    found = []
    for one in rows:
        before = _told(assess(one.document, explain=False))
        after = _told(assess({**one.document, "house_rules": own}, explain=False))
        differences = [
            {"what": name, "before": before[name], "after": after[name]}
            for name in before
            if before[name] != after[name]
        ]
        if differences:
            found.append({"inspection": one.pk, "title": one.engine.title, "changes": differences})
    return found


def _told(assessment: dict[str, Any]) -> dict[str, str]:
    """What house rules can change of an answer, in words."""
    actions = [one["plug_action"] for one in assessment["cylinders"]]
    work = assessment["engine"]["work"]
    first = assessment["next_tests"][:1]
    return {
        "grade": assessment["engine"]["grade"],
        "compression": _deciding(assessment["compression"]),
        "leak-down": _deciding(assessment.get("leakdown", {"rules": []})),
        "plugs to replace": str(actions.count("replace")),
        "expected cost": f"{work['expected_cost']:g} {work['currency']}",
        "next test": f"{first[0]['test']}, {first[0]['minutes']:g} min" if first else "none",
    }


def _deciding(report: dict[str, Any]) -> str:
    """What the deciding school says, and of which cylinders."""
    one = next((one for one in report["rules"] if one["decides"]), None)
    if one is None:
        return "no school decides"
    failing = ", ".join(map(str, one["failing"]))
    return f"{one['label']}: {one['verdict']} {failing}".strip()
