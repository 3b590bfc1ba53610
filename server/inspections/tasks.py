"""Weighing again what was weighed by rules that are no longer in force."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import islice

from django.db.models import F, Q, QuerySet
from django_tasks import task

from core.judgement import rules_version
from server.inspections.models import Inspection
from server.inspections.services import up_to_date

AT_ONCE = 50  # A few seconds of a worker's time.


def by_older_rules() -> Iterator[list[str]]:
    """Keys of open inspections that wait, the newest first, a job's worth at a time."""
    keys = _waiting().order_by("-date").values_list("pk", flat=True).iterator()
    while some := [str(key) for key in islice(keys, AT_ONCE)]:
        yield some


def _waiting() -> QuerySet[Inspection]:
    behind = ~Q(weighed=F("sequence")) | ~Q(rules=rules_version())
    return Inspection.objects.open().filter(behind)


@task()
def weigh_again(keys: list[str]) -> int:
    """Weigh some inspections by today's rules; those that were already are left alone."""
    waiting = _waiting().filter(pk__in=keys)
    for one in waiting:
        up_to_date(one)
    return len(waiting)
