"""The application as it runs in earnest, in processes of its own."""

import os
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from contextlib import suppress

from django.conf import settings


class ServerProcess:
    """Serves the test's database; may be killed."""

    def __init__(self):
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = free.getsockname()[1]
        self.address = f"http://127.0.0.1:{self.port}"
        self.start()

    def start(self):
        given = settings.DATABASES["default"]
        login = f"{given['USER']}:{given['PASSWORD']}@{given['HOST']}:{given['PORT']}"
        environment = {**os.environ, "DATABASE_URL": f"postgresql://{login}/{given['NAME']}"}
        command = [
            sys.executable, "-m", "gunicorn", "-c", "python:server.serving",
            "--bind", f"127.0.0.1:{self.port}", "--log-level", "critical",
        ]  # fmt: skip
        self.process = subprocess.Popen(
            command, cwd=settings.ROOT, env=environment, start_new_session=True,
            stderr=subprocess.DEVNULL,
        )  # fmt: skip
        while self.process.poll() is None:
            try:
                urllib.request.urlopen(self.address, timeout=60).close()
                return
            except OSError:
                time.sleep(0.1)
        raise AssertionError("the server did not start")

    def kill(self):
        with suppress(ProcessLookupError):
            os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()
