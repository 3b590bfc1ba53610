"""What may be done with a client's data: given out whole, and erased."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.utils import timezone

from server.clients.models import Client
from server.inspections.models import Inspection
from server.shops.models import Shop

DAYS_A_YEAR = 365.25


def everything(client: Client) -> dict[str, Any]:
    """All that is kept of a person, for them: a plain mapping that JSON can hold."""
    return {
        **{name: getattr(client, name) for name in Client.PERSONAL},
        "made": client.made.isoformat(),
        "erased": client.erased.isoformat() if client.erased else None,
        "engines": [
            {
                "title": engine.title,
                "identifier": engine.identifier,
                "inspections": [
                    {"id": str(one.pk), "date": str(one.date or "")}
                    for one in engine.inspections.only("pk", "date").order_by("date", "pk")
                ],
            }
            for engine in client.engines.order_by("title", "pk")
        ],
    }


def forgotten() -> list[Client]:
    """Erase the clients whose shop keeps nobody so long; those who were erased.

    The years count from the last inspection of an engine of theirs, or from when they were written
    down.
    """
    gone = []
    today = timezone.now()
    for shop in Shop.objects.filter(keep_clients__isnull=False):
        before = today - timedelta(days=DAYS_A_YEAR * (shop.keep_clients or 0))
        recent = Inspection.objects.filter(shop=shop, changed__gte=before)
        old = shop.clients.filter(erased=None, made__lt=before)
        gone += [erase(client) for client in old.exclude(engines__inspections__in=recent)]
    return gone


def erase(client: Client) -> Client:
    """Forget who it was; that there was somebody, and what was found on their engines, stays."""
    for name in Client.PERSONAL:
        setattr(client, name, "")
    client.erased = client.erased or timezone.now()
    client.save()
    return client
