"""For whoever watches over it: whether it lives, and whether it can do its work."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from typing import Any, ClassVar

from django.conf import settings
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import DatabaseError, connection
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.urls import resolve
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe

from server.api.replica import BEHIND_S, REPLICA, lag_s


@require_safe
@never_cache
def alive(request: HttpRequest) -> JsonResponse:
    """The process answers; nothing behind it is asked."""
    return JsonResponse({"alive": True})


@require_safe
@never_cache
def ready(request: HttpRequest) -> JsonResponse:
    """The database answers a query and the storage keeps a file: 503 where one does not.

    A replica that is away or behind stops nothing, for the first database answers; it is said.
    """
    found = {"database": _database(), "storage": _storage()}
    replica = {"replica": _replica()} if REPLICA in settings.DATABASES else {}
    return JsonResponse(found | replica, status=200 if all(found.values()) else 503)


@require_safe
def robots(request: HttpRequest) -> HttpResponse:
    """Nothing here is for search engines."""
    return HttpResponse("User-agent: *\nDisallow: /\n", content_type="text/plain")


class Probed:
    """Answers whoever watches over it before anything asks by which name it was called.

    A container asks itself by its own number, whatever names it is known by outside.
    """

    PROBES: ClassVar = {"/healthz": alive, "/readyz": ready}

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        probe = self.PROBES.get(request.path_info)
        if probe is None:
            return self.answer(request)
        request.resolver_match = resolve(request.path_info)
        return probe(request)


def _database() -> bool:
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
            return bool(cursor.fetchone() == (1,))
    except DatabaseError:
        return False


def _replica() -> dict[str, Any]:
    """Whether the replica follows, and how far it is behind. [s]"""
    try:
        lag = lag_s()
    except DatabaseError:
        lag = None
    return {"follows": lag is not None and lag <= BEHIND_S, "behind_s": lag}


def _storage() -> bool:
    name = f"ready/{uuid.uuid4().hex}"
    try:
        default_storage.save(name, ContentFile(b"ready"))
        with default_storage.open(name) as kept:
            whole: bool = kept.read() == b"ready"
        default_storage.delete(name)
    except OSError:
        return False
    return whole
