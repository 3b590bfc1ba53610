"""What is written down about each request, and counted: by its route, never by its address.

An address may hold a secret (a client's link, an invitation) and a body a name; neither is logged.
A request has an id, its sender's or one of its own, which stands in every line and in the answer.
"""

from __future__ import annotations

import logging
import re
import time
import uuid
from collections.abc import Callable
from contextvars import ContextVar

from django.http import HttpRequest, HttpResponse
from prometheus_client import Histogram

HEADER = "X-Request-Id"
A_REQUEST_ID = re.compile(r"[A-Za-z0-9._-]{8,64}")
UNKNOWN = "(nothing here)"
METHODS = frozenset({"GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS"})
ANOTHER = "another"  # Anybody can invent a method; each would be a line of figures for good.
access = logging.getLogger("fiacre.access")
_id: ContextVar[str] = ContextVar("request_id", default="-")
TOOK = Histogram(
    "fiacre_request_seconds",
    "Time that an answer took, by route.",
    ("method", "route", "status"),
    buckets=(0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 15),
)


class WithRequestId(logging.Filter):
    """Every line says to which request it belongs."""

    def filter(self, record: logging.LogRecord) -> bool:
        record.request_id = _id.get()
        return True


class Watched:
    """Middleware: an id, a line in the access log, and a tick of the clock for each request."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        given = request.headers.get(HEADER, "")
        request.encoding = "utf-8"  # Whatever charset a caller names: some are no text at all.
        token = _id.set(given if A_REQUEST_ID.fullmatch(given) else uuid.uuid4().hex)
        began = time.perf_counter()
        try:
            response = self.answer(request)
            took = time.perf_counter() - began
            match = request.resolver_match
            route = match.route if match else UNKNOWN
            method = request.method if request.method in METHODS else ANOTHER
            TOOK.labels(method, route, str(response.status_code)).observe(took)
            access.info(
                "%s %s %s",
                request.method,
                route,
                response.status_code,
                extra={
                    "method": request.method,
                    "route": route,
                    "status": response.status_code,
                    "ms": round(1000 * took, 1),
                },
            )
            response[HEADER] = _id.get()
            return response
        finally:
            _id.reset(token)
