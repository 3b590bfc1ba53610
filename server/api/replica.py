"""A second database that follows the first (`REPLICA_URL`): lists are read from it.

Who has just written reads the first one for a while, so that nobody misses what they did. Where the
second is away, or has stopped following, the first answers.
"""

from __future__ import annotations

import logging
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Any

from django.conf import settings
from django.db import DatabaseError, connections
from django.http import HttpRequest, HttpResponse

REPLICA = "replica"
ASKED_EACH_S = 1.0
WROTE, BEHIND_S = "wrote", 10  # How far a replica may lag before somebody misses their own entry.
SAFE = ("GET", "HEAD", "OPTIONS")
log = logging.getLogger(__name__)
_known_lag: dict[str, tuple[float, float]] = {}
_reading: ContextVar[bool] = ContextVar("reading", default=False)


class Router:
    """Sends to the replica what is read inside `from_replica`, and nothing else."""

    def db_for_read(self, model: type[Any], **hints: Any) -> str | None:
        return REPLICA if _reading.get() else None

    def db_for_write(self, model: type[Any], **hints: Any) -> str | None:
        return "default"

    def allow_relation(self, one: Any, other: Any, **hints: Any) -> bool:
        return True

    def allow_migrate(self, db: str, app_label: str, **hints: Any) -> bool:
        return db != REPLICA


@contextmanager
def from_replica(request: HttpRequest | None = None) -> Iterator[None]:
    """Read what is asked in this block from the replica, where there is one and it answers."""
    wrote = request is not None and WROTE in request.COOKIES
    if wrote or not _answers():
        yield
        return
    before = _reading.set(True)
    try:
        yield
    finally:
        _reading.reset(before)


# Seconds that it is behind: none while it has played back all that it receives. Where it receives
# nothing any more, since it last played anything back. The first database is no replica.
LAG = """
SELECT CASE
    WHEN NOT pg_is_in_recovery() THEN 0
    WHEN EXISTS (SELECT 1 FROM pg_stat_wal_receiver)
        AND pg_last_wal_receive_lsn() = pg_last_wal_replay_lsn() THEN 0
    ELSE coalesce(extract(epoch FROM now() - pg_last_xact_replay_timestamp()), 1e9)
END
"""


def lag_s() -> float | None:
    """How far the replica is behind the first database; None where there is none, or it is away.

    Asked at most once a second in each process. [s]
    """
    if REPLICA not in settings.DATABASES:
        return None
    known = _known_lag.get(REPLICA)
    if known is not None and time.monotonic() - known[0] < ASKED_EACH_S:
        return known[1]
    with connections[REPLICA].cursor() as cursor:
        cursor.execute(LAG)
        lag = float(cursor.fetchone()[0])
    _known_lag[REPLICA] = (time.monotonic(), lag)
    return lag


def _answers() -> bool:
    if REPLICA not in settings.DATABASES:
        return False
    try:
        follower = connections[REPLICA]
        follower.close_if_health_check_failed()  # It may have gone since the last request.
        follower.ensure_connection()
        lag = lag_s()
    except DatabaseError:
        log.warning("the replica does not answer; the first database is read")
        return False
    if lag is not None and lag > BEHIND_S:
        log.warning("the replica is %.0f s behind; the first database is read", lag)
        return False
    return True


class Written:
    """Remembers for a moment, on the device, that somebody has written."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.answer(request)
        if REPLICA in settings.DATABASES and request.method not in SAFE:
            response.set_cookie(
                WROTE,
                "1",
                max_age=BEHIND_S,
                httponly=True,
                samesite="Strict",
                secure=settings.SECURE,
            )
        return response
