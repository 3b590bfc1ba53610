"""Captures as server-sent events, to a page on the same machine and to nobody else.

    GET /                      what it is: {"instrument": "gauge", "title": "..."}
    GET /capture?cylinder=3    one capture, as text/event-stream

The events are those of `readings`. Only loopback is listened on, and only a page that itself comes
from loopback is answered, so no foreign site can read an instrument through somebody's browser.
"""

from __future__ import annotations

import json
import time
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any
from urllib.parse import parse_qs, urlsplit

from core.errors import CoreError
from instruments.readings import Instrument

LOOPBACK = "127.0.0.1"
NEAR = (LOOPBACK, "localhost")


def serve(instrument: Instrument, port: int) -> ThreadingHTTPServer:
    """A server of one instrument; port 0 takes any that is free. It has yet to be run."""

    class Handler(_Handler):
        source = instrument

    server = ThreadingHTTPServer((LOOPBACK, port), Handler)
    server.daemon_threads = True
    return server


class _Handler(BaseHTTPRequestHandler):
    """Answers one request."""

    source: Instrument

    def do_GET(self) -> None:
        asked = urlsplit(self.path)
        if not self._is_near():
            self._answer(403, {"error": "loopback only"})
        elif asked.path == "/":
            self._answer(200, {"instrument": self.source.id, "title": self.source.title})
        elif asked.path == "/capture":
            self._capture(parse_qs(asked.query).get("cylinder", ["1"])[0])
        else:
            self._answer(404, {"error": "/ or /capture"})

    def _is_near(self) -> bool:
        """Whether both the address asked for and the page that asks are on this machine."""
        host = urlsplit(f"//{self.headers.get('Host', '')}").hostname
        origin = self.headers.get("Origin")
        return host in NEAR and (origin is None or urlsplit(origin).hostname in NEAR)

    def _head(self, status: int, kind: str) -> None:
        self.send_response(status)
        self.send_header("Content-Type", kind)
        self.send_header("Cache-Control", "no-store")
        if self.headers.get("Origin") and status == 200:
            self.send_header("Access-Control-Allow-Origin", self.headers["Origin"])
        self.end_headers()

    def _answer(self, status: int, body: dict[str, Any]) -> None:
        self._head(status, "application/json")
        self.wfile.write(json.dumps(body).encode())

    def _capture(self, asked: str) -> None:
        try:
            events = self.source.capture(int(asked))
            event = next(events)
        except (ValueError, CoreError) as error:
            self._answer(400, {"error": str(error)})
            return
        self._head(200, "text/event-stream")
        try:
            while True:
                time.sleep(event.after_s)
                said = f"event: {event.name}\ndata: {json.dumps(event.data)}\n\n"
                self.wfile.write(said.encode())
                self.wfile.flush()
                event = next(events)
        except (StopIteration, OSError):  # It is over, or nobody listens any more.
            return

    def log_message(self, format: str, *args: Any) -> None:
        """Say nothing: the shell shows where it streams, no more."""
