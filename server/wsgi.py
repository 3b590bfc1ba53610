"""The application as gunicorn loads it: threads wait for the network, one at a time computes."""

import os
from collections.abc import Iterable
from importlib import import_module
from typing import Any

from django.core.wsgi import get_wsgi_application

from server import turns
from server.bodies import WsgiApplication, bounded

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")


def one_at_a_time(application: WsgiApplication) -> WsgiApplication:
    """Take the turn once the body is there: what trickles in or out holds none."""

    def serve(environ: dict[str, Any], start_response: Any) -> Iterable[bytes]:
        with turns.short():
            return application(environ, start_response)

    return serve


application = bounded(one_at_a_time(get_wsgi_application()))
import_module("server.urls")  # Before the first request, which would wait for it.
