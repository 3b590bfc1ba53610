"""Bodies are bounded before anything takes them in: by time, by size, by who sends them.

What is read here holds a thread and not the process's turn to compute, and no longer than it must:
whoever sends slower than a bad telephone line is let go. Nobody unknown may make the server read
more than a few kilobytes.
"""

from __future__ import annotations

import codecs
import errno
import io
import json
import socket
import time
from collections.abc import Callable, Iterable, Mapping
from http.cookies import CookieError, SimpleCookie
from typing import Any

from django.conf import settings
from django.db import DatabaseError

WsgiApplication = Callable[[dict[str, Any], Any], Iterable[bytes]]
MOST_BYTES = 20_000_000  # More than any view takes: each refuses by its own limit, in its words.
OF_A_STRANGER = 16_384  # What anybody may send who has not signed in: an address, a password.
PATIENCE_S = 8.0  # For a request to begin with; what has come in buys more at the least rate.
TOO_LARGE = {"code": "too-large", "detail": "More than is taken at once.", "problems": []}
NO_LENGTH = {"code": "length-required", "detail": "Say how long it is.", "problems": []}
LEAST_RATE = 8_000.0  # Bytes a second; a photo over a bad telephone line is some four times that.


class Patient:
    """A socket that is read with an end in sight: then it is as if the other side had left.

    The time runs from where something is read: browsers open connections that they use later, and
    one that says nothing costs no thread.
    """

    def __init__(self, plain: socket.socket) -> None:
        self.plain = plain
        self.began: float | None = None
        self.read = 0

    def recv(self, size: int, *flags: int) -> bytes:
        """Some bytes, or the end of patience."""
        if self.began is None:
            self.began = time.monotonic()
        left = self.began + PATIENCE_S + self.read / LEAST_RATE - time.monotonic()
        if left <= 0:
            raise OSError(errno.ECONNRESET, "too slow")
        self.plain.settimeout(left)
        try:
            data = self.plain.recv(size, *flags)
        except TimeoutError:
            raise OSError(errno.ECONNRESET, "too slow") from None
        finally:
            self.plain.settimeout(None)
        self.read += len(data)
        return data

    def __getattr__(self, name: str) -> Any:
        return getattr(self.plain, name)


def bounded(application: WsgiApplication) -> WsgiApplication:
    """Read a body whole before anything else, or refuse it by its heading alone."""

    def serve(environ: dict[str, Any], start_response: Any) -> Iterable[bytes]:
        length = int(environ.get("CONTENT_LENGTH") or 0)
        if "HTTP_TRANSFER_ENCODING" in environ:
            return _refused(start_response, "411 Length Required", NO_LENGTH)
        if length > MOST_BYTES or (length > OF_A_STRANGER and not _known(environ)):
            return _refused(start_response, "413 Content Too Large", TOO_LARGE)
        _plain_charset(environ)
        environ["wsgi.input"] = io.BytesIO(environ["wsgi.input"].read(length) if length else b"")
        return application(environ, start_response)

    return serve


def _refused(start_response: Any, status: str, told: Mapping[str, Any]) -> Iterable[bytes]:
    body = json.dumps(told)
    start_response(
        status,
        [
            ("Content-Type", "application/json"),
            ("Content-Length", str(len(body))),
            ("Connection", "close"),
        ],
    )
    return [body.encode()]


def _known(environ: dict[str, Any]) -> bool:
    """Whether a request comes from somebody who signed in, or with a key that opens something."""
    from server.shops.keys import opens
    from server.shops.sessions import is_of_somebody

    try:
        cookies = SimpleCookie(environ.get("HTTP_COOKIE", ""))
    except CookieError:
        return False
    session = cookies.get(settings.SESSION_COOKIE_NAME)
    bearer = environ.get("HTTP_AUTHORIZATION", "").removeprefix("Bearer ")
    try:
        with_key = bool(bearer) and opens(bearer)
        return with_key or (session is not None and is_of_somebody(session.value))
    except DatabaseError:
        return True  # It is away: the view says so, and reads no more than it takes.


def _plain_charset(environ: dict[str, Any]) -> None:
    """Forget a charset that is no text: Python knows codecs that are none."""
    kind, found, charset = environ.get("CONTENT_TYPE", "").partition("charset=")
    if not found:
        return
    name = charset.split(";")[0].strip().strip("\"'")
    try:
        known = bool(getattr(codecs.lookup(name), "_is_text_encoding", False))
    except (LookupError, ValueError):
        known = False
    if not known:
        environ["CONTENT_TYPE"] = kind.rstrip("; ")
