"""The application as gunicorn loads it: threads wait for the network, one at a time computes."""

import os
import threading
from collections.abc import Iterable
from importlib import import_module
from typing import Any

from django.core.wsgi import get_wsgi_application

from server.bodies import WsgiApplication, bounded

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")


def one_at_a_time(application: WsgiApplication) -> WsgiApplication:
    """Take the process's turn to compute, once the body is there.

    Threads that compute at once share one interpreter and make each other slower; what they are
    good for is waiting. A body that trickles in, or an answer that trickles out, holds no turn.
    """
    turn = threading.Lock()

    def serve(environ: dict[str, Any], start_response: Any) -> Iterable[bytes]:
        with turn:
            return application(environ, start_response)

    return serve


application = bounded(one_at_a_time(get_wsgi_application()))
import_module("server.urls")  # Before the first request, which would wait for it.
