"""The same engine's inspections before one, and what they tell of the work."""

from __future__ import annotations

from collections import defaultdict
from typing import Any

from django.db.models import QuerySet

from core.planning.own_minutes import Made, own_minutes
from server.inspections.models import Inspection, Observation
from server.shops.models import User

MOST_EARLIER = 10


def earlier(user: User, inspection: Inspection) -> QuerySet[Inspection]:
    """The newest of them first."""
    others = Inspection.objects.visible_to(user).filter(engine_id=inspection.engine_id)
    others = others.filter(opened__lt=inspection.opened).exclude(pk=inspection.pk)
    return others.order_by("-date", "-opened")[:MOST_EARLIER]


def minutes_taken(user: User, inspection: Inspection) -> dict[str, float]:
    """How long each step of the plan took on this engine before. [min]"""
    before = [one.pk for one in earlier(user, inspection).only("pk")]
    rows = Observation.objects.filter(inspection__in=before, made__isnull=False).order_by("made")
    timed: dict[Any, list[Made]] = defaultdict(list)
    for inspected, path, made in rows.values_list("inspection", "path", "made"):
        if made is not None:
            timed[inspected].append((path, made))
    return own_minutes(timed.values())
