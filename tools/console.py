"""Talking to the person at the terminal."""

from __future__ import annotations

import sys
import tempfile
import traceback
from typing import NoReturn


class Stop(Exception):
    """Something is in the way. The message says what, and the way out."""


def say(message: str) -> None:
    print(message, flush=True)


def run_main(main: object, arguments: list[str]) -> NoReturn:
    """Run a main function; what stops it is said in one line, never as a trace."""
    assert callable(main)
    try:
        sys.exit(main(arguments))
    except Stop as stop:
        print(f"fiacre: {stop}", file=sys.stderr, flush=True)
        sys.exit(1)
    except KeyboardInterrupt:
        sys.exit(130)
    except Exception as error:
        with tempfile.NamedTemporaryFile(
            "w", prefix="fiacre-error-", suffix=".log", delete=False
        ) as log:
            log.write(traceback.format_exc())
        print(f"fiacre: unexpected: {error}; the details are in {log.name}", file=sys.stderr)
        sys.exit(1)
