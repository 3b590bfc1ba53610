"""The application as gunicorn loads it: threads wait for the network, one at a time computes."""

import io
import os
import threading
from collections.abc import Callable, Iterable
from importlib import import_module
from typing import Any

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")

WsgiApplication = Callable[[dict[str, Any], Any], Iterable[bytes]]
MOST_BYTES = (
    20_000_000  # More than any view takes: each refuses by its own limit, in its own words.
)


def one_at_a_time(application: WsgiApplication) -> WsgiApplication:
    """Read the body first, and only then take the process's turn to compute.

    Threads that compute at once share one interpreter and make each other slower; what they are
    good for is waiting. A body that trickles in, or an answer that trickles out, holds no turn.
    """
    turn = threading.Lock()

    def serve(environ: dict[str, Any], start_response: Any) -> Iterable[bytes]:
        length = int(environ.get("CONTENT_LENGTH") or 0)
        if 0 < length <= MOST_BYTES:
            environ["wsgi.input"] = io.BytesIO(environ["wsgi.input"].read(length))
        with turn:
            return application(environ, start_response)

    return serve


application = one_at_a_time(get_wsgi_application())
import_module("server.urls")  # Before the first request, which would wait for it.
