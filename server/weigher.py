"""A process beside each one that serves: it weighs, and keeps nobody waiting whose word is kept.

It stands back for whoever keeps an entry, has an end in sight, and may fall over: the next one is
asked then. Where nobody began one (commands, tests) the core is asked here and now.
"""

from __future__ import annotations

import os
from multiprocessing import get_context
from typing import Any

from pebble import ProcessExpired, ProcessPool

from core import telling
from core.language import speaking, spoken_language

DEADLINE_S = 30
STANDS_BACK = 5  # Its niceness.

_pool: ProcessPool | None = None


class NotWeighed(Exception):
    """It took too long, or the process that weighed fell over."""


def begin() -> None:
    """Have a process beside this one from now on."""
    global _pool
    _pool = ProcessPool(max_workers=1, context=get_context("spawn"), initializer=_ready)
    _pool.schedule(_ready)


def end() -> None:
    """Let it go with this one."""
    global _pool
    if _pool is not None:
        _pool.stop()  # type: ignore[no-untyped-call]
        _pool.join()
        _pool = None


def assess(document: dict[str, Any], *, explain: bool = True, advise: bool = True) -> Any:
    """The core's answer to a canonical document, in the language that is spoken here.

    Raises
    ------
    NotWeighed
        If there is none within the deadline.
    """
    if _pool is None:
        return telling.assess(document, explain=explain, advise=advise)
    asked = _pool.schedule(
        _assess, args=[document, spoken_language(), explain, advise], timeout=DEADLINE_S
    )
    try:
        return asked.result()
    except (TimeoutError, ProcessExpired) as error:
        raise NotWeighed from error


def _ready() -> None:
    if os.nice(0) < STANDS_BACK:
        os.nice(STANDS_BACK)


def _assess(document: dict[str, Any], language: str, explain: bool, advise: bool) -> Any:
    with speaking(language):
        return telling.assess(document, explain=explain, advise=advise)
