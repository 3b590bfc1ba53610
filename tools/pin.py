"""What is installed: every package by version and by the sums of its files.

    python -m tools.pin             make requirements/*.txt from requirements/*.in
    python -m tools.pin --faults    ask the registry for known faults of what serves

What the registry does not know, or where none answers, is told and is no failure.
"""

from __future__ import annotations

import argparse
import json
import subprocess
import sys

from tools.console import run_main, say
from tools.machine import PYTHON, ROOT, run

LISTS = ROOT / "requirements"
HEAD = "# Generated from {kind}.in by python -m tools.pin: everything, pinned. Do not edit.\n"


def main(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="python -m tools.pin", description=__doc__)
    parser.add_argument("--faults", action="store_true", help="ask for known faults")
    return _faults() if parser.parse_args(arguments).faults else _pin()


def _pin() -> int:
    uv = [str(PYTHON.parent / "uv"), "pip", "compile", "--quiet", "--generate-hashes"]
    for kind in ("run", "check"):
        made = LISTS / f"{kind}.txt"
        told = ["--no-header", "--no-annotate", "--output-file", str(made)]
        run([*uv, *told, str(LISTS / f"{kind}.in")], f"Pinning {made.name}")
        made.write_text(HEAD.format(kind=kind) + made.read_text())
    return 0


def _faults() -> int:
    audit = [str(PYTHON), "-m", "pip_audit", "--disable-pip", "--require-hashes", "--format=json"]
    asked = subprocess.run(
        [*audit, "--progress-spinner=off", "-r", str(LISTS / "run.txt")],
        capture_output=True,
        text=True,
    )
    try:
        told = json.loads(asked.stdout)["dependencies"]
    except json.JSONDecodeError:
        say("nobody answered")
        return 0
    faulty = [one for one in told if one.get("vulns")]
    for one in faulty:
        say(f"{one['name']} {one['version']}: {', '.join(each['id'] for each in one['vulns'])}")
    known = sum("skip_reason" not in one for one in told)
    say(
        f"{known} of {len(told)} packages are known to whom was asked, {len(faulty)} of them faulty"
    )
    return 1 if faulty else 0


if __name__ == "__main__":
    run_main(main, sys.argv[1:])
