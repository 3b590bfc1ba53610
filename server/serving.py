"""How the application is served: read by gunicorn (`-c python:server.serving`).

A request costs the processor a few dozen milliseconds, so there are as many processes as cores,
each with threads: not to compute at once, but so that a connection that says nothing, or an upload
that trickles, keeps nobody waiting. What takes longer, weighing an engine, is done by a process
beside each (server/weigher.py). A connection that has said nothing for five seconds goes back
to the poller and holds no thread; one that sends slower than a bad line is let go
(server/bodies.py). docs/benchmarks.md has the figures.
"""

import os
from typing import Any

from gunicorn.workers.gthread import ThreadWorker  # type: ignore[import-untyped]

from server import weigher
from server.bodies import Patient

wsgi_app = "server.wsgi:application"
workers = int(os.environ.get("WEB_WORKERS", "2"))
worker_class = "server.serving.PatientWorker"
threads = int(os.environ.get("WEB_THREADS", "32"))
worker_connections = 1000
backlog = 1024
reuse_port = True  # The kernel deals connections out; or else one process takes them all.
keepalive = 0
timeout = 60
graceful_timeout = 20
max_requests = 20_000
max_requests_jitter = 2_000
limit_request_line = 8190
limit_request_fields = 60
limit_request_field_size = 8190
control_socket_disable = True
loglevel = os.environ.get("WEB_LOG_LEVEL", "warning")


class PatientWorker(ThreadWorker):  # type: ignore[misc]
    """Reads headings and bodies with an end in sight, so that no thread waits for good."""

    def handle(self, conn: Any) -> Any:
        """A request on a connection, in a thread of its own."""
        if not isinstance(conn.sock, Patient):
            conn.sock = Patient(conn.sock)
        return super().handle(conn)


def post_worker_init(worker: object) -> None:
    """Each process has one beside it that weighs."""
    weigher.begin()


def worker_exit(server: object, worker: object) -> None:
    weigher.end()


def child_exit(server: object, worker: Any) -> None:
    """What a process counted stays counted when it goes; its gauges go with it."""
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:
        from prometheus_client.multiprocess import mark_process_dead

        mark_process_dead(worker.pid)
