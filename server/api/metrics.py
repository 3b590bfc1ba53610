"""Counters for Prometheus: how long answers took, and how many jobs wait."""

from __future__ import annotations

import os
from collections.abc import Iterator

from django.db.models import Count
from django.http import Http404, HttpRequest, HttpResponse
from django.utils.crypto import constant_time_compare
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult
from prometheus_client import CONTENT_TYPE_LATEST, CollectorRegistry, generate_latest
from prometheus_client import REGISTRY as OWN
from prometheus_client.metrics_core import GaugeMetricFamily
from prometheus_client.multiprocess import MultiProcessCollector


class Jobs:
    """How many jobs there are in each state, counted when somebody asks."""

    def collect(self) -> Iterator[GaugeMetricFamily]:
        """One gauge with a figure for each state, from the database."""
        gauge = GaugeMetricFamily("fiacre_jobs", "Jobs by state.", labels=["state"])
        states = DBTaskResult.objects.order_by().values_list("status").annotate(count=Count("pk"))
        found = dict(states)
        for state in TaskResultStatus.values:
            gauge.add_metric([state.lower()], found.get(state, 0))
        yield gauge


@require_safe
@never_cache
def metrics(request: HttpRequest) -> HttpResponse:
    """Counters, for whoever has the key; without a key set there is nothing here."""
    key = os.environ.get("METRICS_KEY", "")
    given = request.headers.get("Authorization", "").removeprefix("Bearer ")
    if not key or not constant_time_compare(given, key):
        raise Http404
    registry = OWN
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:  # Several processes count together.
        registry = CollectorRegistry()
        MultiProcessCollector(registry)
    jobs = CollectorRegistry()
    jobs.register(Jobs())
    body = generate_latest(registry) + generate_latest(jobs)
    return HttpResponse(body, content_type=CONTENT_TYPE_LATEST)
