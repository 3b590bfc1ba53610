"""What may be done with a client's data: given out whole, and erased."""

from __future__ import annotations

from typing import Any

from django.utils import timezone

from server.clients.models import Client


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


def erase(client: Client) -> Client:
    """Forget who it was; that there was somebody, and what was found on their engines, stays."""
    for name in Client.PERSONAL:
        setattr(client, name, "")
    client.erased = client.erased or timezone.now()
    client.save()
    return client
