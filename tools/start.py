"""./start: everything that is missing, then the application with its demo."""

from __future__ import annotations

import argparse
import os
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from pathlib import Path

from tools.cluster import Cluster
from tools.console import Stop, run_main, say
from tools.machine import (
    LOCAL,
    PYTHON,
    REPORT_LIBRARIES,
    ROOT,
    front_build,
    local_folder,
    python_packages,
    secret,
    system_packages,
)

PORT = 8020
WATCHED_EACH_S = 5
LOG_IN = ("signe@tarnel.example", "launch-and-pump")


def main(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="./start", description="Start Fiacre with its demo.")
    parser.add_argument("--port", type=int, default=PORT, help=f"where to serve ({PORT})")
    parser.add_argument("--fresh", action="store_true", help="empty the database, load the demo")
    parser.add_argument("--yes", action="store_true", help="with --fresh: do not ask")
    parser.add_argument(
        "--no-demo", action="store_true", help="for a shop of your own: never load the demo"
    )
    options = parser.parse_args(arguments)
    if options.fresh and options.no_demo:
        raise Stop("--fresh is for the demo; it does not go with --no-demo")
    if not 1 <= options.port <= 65535:
        raise Stop(f"--port takes a number from 1 to 65535, not {options.port}")
    _port_free(options.port)
    local_folder()
    if options.fresh and not options.yes and not _sure():
        say("Nothing was changed.")
        return 0
    system_packages(REPORT_LIBRARIES)
    python_packages("run")
    front_build()
    cluster = Cluster()
    environment = application_environment(cluster.start())
    server: subprocess.Popen[bytes] | None = None
    worker: subprocess.Popen[bytes] | None = None
    try:
        code = prepare(environment, fresh=options.fresh, demo=not options.no_demo)
        server = _serve(options.port, environment)
        worker = _work(environment)
        say(_welcome(f"http://127.0.0.1:{options.port}", code, demo=not options.no_demo))
        return _watch(server, cluster)
    except KeyboardInterrupt:
        say("\nStopping; the data stay.")
        return 0
    finally:
        for process in (worker, server):
            if process is not None and process.poll() is None:
                process.terminate()
                process.wait()
        cluster.stop()


def application_environment(database_url: str) -> dict[str, str]:
    """What the application reads from its environment."""
    return {
        **os.environ,
        "DATABASE_URL": database_url,
        "SECRET_KEY": secret(LOCAL / "secret-key", 48),
        "DJANGO_SETTINGS_MODULE": "server.settings",
        "PYTHONPATH": str(ROOT),
        "OPENBLAS_NUM_THREADS": "1",
        "OMP_NUM_THREADS": "1",
    }


def prepare(environment: dict[str, str], *, fresh: bool, demo: bool) -> str:
    """Migrate; an empty database gets the demo, or the code is returned that makes a shop."""
    command = [str(PYTHON), "manage.py", "prepare", *(["--fresh"] if fresh else [])]
    command += [] if demo else ["--no-demo"]
    done = subprocess.run(command, env=environment, cwd=ROOT, capture_output=True, text=True)
    if done.returncode:
        tail = "\n".join((done.stdout + done.stderr).strip().splitlines()[-10:])
        raise Stop(f"Preparing the database failed.\n{tail}")
    return done.stdout.strip()


def _welcome(address: str, code: str, *, demo: bool) -> str:
    if code:
        return (
            f"Fiacre runs at {address} - it is empty: open {address}/set-up/{code} within a day "
            "to make the shop and its owner - Ctrl-C stops it"
        )
    who = f"demo log-in {LOG_IN[0]}, password {LOG_IN[1]} - " if demo else ""
    return f"Fiacre runs at {address} - {who}Ctrl-C stops it"


def _work(environment: dict[str, str]) -> subprocess.Popen[bytes]:
    """A worker for what nobody should wait for."""
    command = [str(PYTHON), "manage.py", "db_worker"]
    return subprocess.Popen(
        command, env=environment, cwd=ROOT, start_new_session=True, stdout=subprocess.DEVNULL
    )


def _serve(port: int, environment: dict[str, str]) -> subprocess.Popen[bytes]:
    command = [
        str(PYTHON), "-m", "gunicorn", "-c", "python:server.serving",
        "--bind", f"127.0.0.1:{port}",
    ]  # fmt: skip
    server = subprocess.Popen(command, env=environment, cwd=ROOT, start_new_session=True)
    try:
        for _ in range(150):
            if server.poll() is not None:
                raise Stop("the server stopped at once; what it printed above says why")
            try:
                urllib.request.urlopen(f"http://127.0.0.1:{port}/", timeout=5).close()
                return server
            except (urllib.error.URLError, OSError):
                time.sleep(0.1)
        raise Stop("the server did not answer within 15 seconds")
    except BaseException:  # Nobody else knows of it yet: whoever is interrupted here ends it.
        server.terminate()
        server.wait()
        raise


def _watch(server: subprocess.Popen[bytes], cluster: Cluster) -> int:
    """Wait for the server's end; a database that died meanwhile is started again."""
    while True:
        try:
            return server.wait(timeout=WATCHED_EACH_S)
        except subprocess.TimeoutExpired:
            if not cluster.lives():
                say("The database had stopped; it is started again.")
                cluster.start()


def _port_free(port: int) -> None:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except PermissionError:
            raise Stop(f"port {port} needs more rights; take one from 1024 up") from None
        except OSError:
            raise Stop(
                f"port {port} is taken, perhaps by a Fiacre that runs already; "
                f"./start --port {port + 1 if port < 65535 else port - 1} takes another"
            ) from None


def _sure() -> bool:
    say("--fresh deletes every shop, engine and inspection in the demo database.")
    try:
        return input("Type 'fresh' to go on: ").strip() == "fresh"
    except EOFError:
        return False


def _interrupt(*_: object) -> None:
    raise KeyboardInterrupt


if __name__ == "__main__":
    for stopping in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(stopping, _interrupt)
    os.chdir(Path(__file__).resolve().parent.parent)
    run_main(main, sys.argv[1:])
