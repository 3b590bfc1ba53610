"""Whose turn it is in a process: one request at a time, and one weighing beside it.

Threads that compute at once share one interpreter and make each other slower; what they are good
for is waiting. What is short (an entry that is kept, a list that is read) takes the first turn.
Weighing an engine takes many times as long: it gives that turn back and takes another, so that
nobody whose word is to be kept waits for anybody's verdict. Who holds a row of the database takes
no turn: whoever has the turn may be waiting for that row.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock, local

_SHORT, _LONG = Lock(), Lock()
_mine = local()


@contextmanager
def short() -> Iterator[None]:
    """The turn of a request, from its first line to its last."""
    with _SHORT:
        _mine.short = True
        try:
            yield
        finally:
            _mine.short = False


@contextmanager
def weighing() -> Iterator[None]:
    """The turn of what takes long; a request's own is given back meanwhile."""
    if getattr(_mine, "long", False):
        yield
        return
    lent = getattr(_mine, "short", False)
    if lent:
        _SHORT.release()
    try:
        with _LONG:
            _mine.long = True
            try:
                yield
            finally:
                _mine.long = False
    finally:
        if lent:
            _SHORT.acquire()
