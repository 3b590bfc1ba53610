"""How long an entry takes when many inspectors record at once, each one entry a second.

    python -m bench.recording [--people 50] [--seconds 30] [--idle 8] [--servers 1]

Serves the application as ./start does, in processes of its own (WEB_WORKERS each), on the database
that DATABASE_URL names; adds a shop for the purpose and takes it away again. Idle connections say
nothing at all. Several servers share the database and nothing else, as on several machines; here
they share the cores too.
"""

from __future__ import annotations

import argparse
import gzip
import json
import os
import random
import socket
import subprocess
import sys
import threading
import time
import uuid
from contextlib import ExitStack, suppress
from dataclasses import dataclass, field
from http.client import HTTPConnection
from importlib import import_module
from statistics import median, quantiles
from typing import Any

import django

from bench.speed import full_record

WARM_UP_S = 5  # Every process meets every engine's gauges once.
PLACES = [
    (f"/cylinders/{number}/plug/{field}", words)
    for number in range(1, 9)
    for field, words in (
        ("deposit_colour", ("tan", "brown", "grey", "black")),
        ("wetness", ("dry", "damp")),
        ("smell", ("none", "fuel")),
    )
]


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--people", type=int, default=50)
    parser.add_argument("--seconds", type=int, default=30)
    parser.add_argument("--idle", type=int, default=0, help="connections that say nothing")
    parser.add_argument("--servers", type=int, default=1)
    asked = parser.parse_args()
    django.setup()
    shop, people = _people(asked.people)
    try:
        with ExitStack() as stack:
            ports = [_serve(stack) for _ in range(asked.servers)]
            for _ in range(asked.idle):
                stack.enter_context(socket.create_connection(("127.0.0.1", ports[0])))
            spent = _record(people, ports, asked.seconds)
    finally:
        shop.delete()
    workers = os.environ.get("WEB_WORKERS", "2")
    print(
        f"{asked.servers} servers of {workers} workers, {asked.people} people, "
        f"{len(spent.acknowledged)} entries, {asked.idle} idle connections"
    )
    for what, late in (("acknowledged", spent.acknowledged), ("weighed", spent.judged)):
        p95 = quantiles(late, n=20)[-1]
        print(f"{what}: median {median(late) * 1000:.0f} ms, p95 {p95 * 1000:.0f} ms")
    started = time.perf_counter()
    sum(range(1_000_000))
    loop = 1e3 * (time.perf_counter() - started)
    print(f"to judge the machine: adding up a million numbers in Python takes {loop:.0f} ms")


def _people(count: int) -> tuple[Any, list[tuple[str, str]]]:
    """A shop with so many inspectors; each one's session, and an inspection to record into."""
    from django.conf import settings
    from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY

    from core.document import check_document, write_document
    from server.inspections.services import import_document
    from server.shops.models import Shop, User

    store = import_module(settings.SESSION_ENGINE).SessionStore
    shop = Shop.objects.create(name="Many at once")
    people = []
    for number in range(count):
        title = {"title": f"Engine {number}", "identifier": str(number)}
        made = full_record(8)
        # Each engine another one: nothing that was kept for one serves the next.
        made["engine"] |= {**title, "compression_ratio": 8 + number / 50}
        user = User(shop=shop, email=f"{uuid.uuid4()}@bench.test", name="A", role="inspector")
        user.set_unusable_password()
        user.save()
        data = write_document(check_document(made))
        inspection = import_document(shop=shop, by=user, data=data)
        session = store()
        session[SESSION_KEY] = str(user.pk)
        session[BACKEND_SESSION_KEY] = "django.contrib.auth.backends.ModelBackend"
        session[HASH_SESSION_KEY] = user.get_session_auth_hash()
        session.create()
        people.append((session.session_key, str(inspection.pk)))
    return shop, people


def _serve(stack: ExitStack) -> int:
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port: int = free.getsockname()[1]
    command = [
        sys.executable, "-m", "gunicorn", "-c", "python:server.serving",
        "--bind", f"127.0.0.1:{port}",
    ]  # fmt: skip
    server = stack.enter_context(subprocess.Popen(command, env={**os.environ}))
    stack.callback(server.terminate)
    for _ in range(200):
        with suppress(OSError), socket.create_connection(("127.0.0.1", port), 1):
            return port
        time.sleep(0.1)
    raise SystemExit("the server did not start")


@dataclass
class Spent:
    """Seconds from an entry to its acknowledgement, and to the answer that knows it."""

    acknowledged: list[float] = field(default_factory=list)
    judged: list[float] = field(default_factory=list)


def _record(people: list[tuple[str, str]], ports: list[int], seconds: int) -> Spent:
    spent = Spent()
    ends = time.monotonic() + WARM_UP_S + seconds
    hands = [
        threading.Thread(
            target=_hand, args=(one, ports[number % len(ports)], ends, spent, random.Random(number))
        )
        for number, one in enumerate(people)
    ]
    for hand in hands:
        hand.start()
    for hand in hands:
        hand.join()
    return spent


def _hand(
    person: tuple[str, str], port: int, ends: float, spent: Spent, chance: random.Random
) -> None:
    """One inspector: an entry a second, each once the last was acknowledged, and the eyes on it."""
    session, inspection = person
    token = "b" * 32
    headers = {
        "Content-Type": "application/json",
        "Cookie": f"sessionid={session}; csrftoken={token}",
        "X-CSRFToken": token,
        "Accept-Encoding": "gzip",
    }
    address = f"/api/inspections/{inspection}"
    said_at: dict[int, float] = {}
    told = threading.Event()
    eyes = threading.Thread(target=_eyes, args=(port, address, headers, said_at, told, ends, spent))
    eyes.start()
    line = HTTPConnection("127.0.0.1", port, timeout=60)
    due = time.monotonic() + chance.random()
    counted = due + WARM_UP_S
    while due < ends:
        time.sleep(max(due - time.monotonic(), 0))
        path, words = chance.choice(PLACES)
        said = {"client_id": str(uuid.uuid4()), "path": path, "value": chance.choice(words)}
        begun = time.monotonic()
        body = json.dumps({"observations": [said]})
        line.request("POST", f"{address}/observations?weigh=later", body, headers)
        kept = _taken(line)
        if begun > counted:
            spent.acknowledged.append(time.monotonic() - begun)
            said_at[kept["sequence"]] = begun
        told.set()
        due = max(due + 1, time.monotonic())
    eyes.join()


def _eyes(
    port: int,
    address: str,
    headers: dict[str, str],
    said_at: dict[int, float],
    told: threading.Event,
    ends: float,
    spent: Spent,
) -> None:
    """The screen: asks what follows as long as something was said that it does not show."""
    line = HTTPConnection("127.0.0.1", port, timeout=60)
    while time.monotonic() < ends:
        if not told.wait(0.1):
            continue
        told.clear()
        line.request("GET", f"{address}/weighed", headers=headers)
        shown = _taken(line)["sequence"]
        now = time.monotonic()
        for sequence in [one for one in list(said_at) if one <= shown]:
            spent.judged.append(now - said_at.pop(sequence))


def _taken(line: HTTPConnection) -> Any:
    answer = line.getresponse()
    body = answer.read()
    if answer.status != 200:
        raise SystemExit(f"refused: {answer.status}")
    return json.loads(gzip.decompress(body) if answer.headers["Content-Encoding"] else body)


if __name__ == "__main__":
    main()
