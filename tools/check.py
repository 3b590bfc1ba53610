"""./check: everything that must hold, ending with a count."""

from __future__ import annotations

import argparse
import os
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from tools.cluster import Cluster
from tools.console import Stop, run_main, say
from tools.machine import (
    PYTHON,
    REPORT_LIBRARIES,
    ROOT,
    WEB,
    front_build,
    front_packages,
    python_packages,
    system_packages,
)
from tools.start import application_environment

CORES = 2
HADOLINT = PYTHON.parent / "hadolint"
NEEDED: dict[str, Path | str] = {
    "chromium": Path("/usr/bin/chromium"),
    "libatomic1": Path("/usr/lib/*/libatomic.so.1"),  # By the browser driver's own Node.
    "libgomp1": Path("/usr/lib/*/libgomp.so.1"),  # By the reference library for inference.
}

COLLECTED = ("--fail-on-update", "--silent")  # In web/locales/en.json.


def main(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="./check", description="Check everything.")
    parser.add_argument("tests", nargs="*", help="only these tests, as dotted names")
    parser.add_argument("--timing", action="store_true", help="only what measures time")
    options = parser.parse_args(arguments)
    python_packages("check")
    system_packages(NEEDED | REPORT_LIBRARIES)
    environment = front_packages()
    with ThreadPoolExecutor(CORES) as pool:
        built = pool.submit(front_build)
        steps = [] if options.tests or options.timing else _steps(environment)
        passed = {name: pool.submit(_passes, name, *step) for name, step in steps}
    built.result()
    failed = [name for name, step in passed.items() if not step.result()]
    if failed:
        say(f"not passed: {', '.join(failed)}")
    cluster = Cluster()
    try:
        environment = application_environment(cluster.start())
        chosen = options.tests or ["--exclude-tag", "timing", "--parallel", str(CORES)]
        if options.timing:  # It has the machine to itself, so that its figures mean something.
            chosen = ["--tag", "timing"]
        tested = _test(environment, *chosen)
    finally:
        cluster.stop()
    return 1 if failed or tested else 0


def _steps(front: dict[str, str]) -> list[tuple[str, tuple[list[str], Path, dict[str, str]]]]:
    python = str(PYTHON)
    own = {**os.environ, "SECRET_KEY": "check", "PYTHONPATH": str(ROOT)}
    return [
        ("ruff", ([python, "-m", "ruff", "check", "."], ROOT, own)),
        ("ruff format", ([python, "-m", "ruff", "format", "--check", "."], ROOT, own)),
        ("mypy", ([python, "-m", "mypy", "core", "instruments", "server", "tools"], ROOT, own)),
        ("known faults", ([python, "-m", "tools.pin", "--faults"], ROOT, own)),
        ("container file", ([str(HADOLINT), "deploy/Containerfile"], ROOT, own)),
        ("generated files", ([python, "-m", "tools.generate", "--check"], ROOT, front | own)),
        ("eslint", (["npm", "run", "--silent", "lint"], WEB, front)),
        ("screen texts", (["npm", "run", "--silent", "texts", "--", *COLLECTED], WEB, front)),
        ("tsc", (["npm", "run", "--silent", "types"], WEB, front)),
        ("vitest", (["npm", "run", "--silent", "test"], WEB, front)),
    ]


def _passes(name: str, command: list[str], folder: Path, environment: dict[str, str]) -> bool:
    plain = {**environment, "NO_COLOR": "1"}
    done = subprocess.run(command, cwd=folder, env=plain, capture_output=True, text=True)
    lines = [line.strip() for line in done.stdout.splitlines()]
    told = [line for line in lines if "seed" in line or "packages are known" in line]
    said = f" ({told[-1].lstrip('✓× ')})" if told else ""  # What it takes to do it again.
    say(f"{name}: {'passed' if done.returncode == 0 else 'FAILED'}{said}")
    if done.returncode:
        say((done.stdout + done.stderr).strip())
    return done.returncode == 0


def _test(environment: dict[str, str], *chosen: str) -> int:
    command = [str(PYTHON), "-W", "ignore", "manage.py", "test", "--noinput", *chosen]
    environment = {
        **environment,
        "DJANGO_ALLOW_ASYNC_UNSAFE": "true",
        "LOG_IN_TRIES": "1000",
    }
    return subprocess.run(command, cwd=ROOT, env=environment).returncode


if __name__ == "__main__":
    if not (ROOT / "manage.py").exists():
        raise Stop("run this from the project")
    run_main(main, sys.argv[1:])
