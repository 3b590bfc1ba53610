"""`bin/fiacre`: the core from a shell, without a database or a server."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from typing import Any

from core.errors import CoreError, DocumentRefused

REFUSED = 2


def main(arguments: list[str] | None = None) -> int:
    """Run one command; 0 if it answered, 2 if it refused its input."""
    parser = argparse.ArgumentParser(prog="fiacre", description="A second opinion on an engine.")
    commands = parser.add_subparsers(dest="command", required=True)
    assess = commands.add_parser("assess", help="assess an inspection document")
    assess.add_argument("file", help="a JSON document, or - for standard input")
    assess.set_defaults(run=_assess)
    calc = commands.add_parser("calc", help="compute one thing: a JSON object in, one out")
    calc.add_argument("name", help="atmosphere, cranking, leakdown or leak-area")
    calc.set_defaults(run=_calc)
    schema = commands.add_parser("schema", help="print the JSON Schema of inspection documents")
    schema.set_defaults(run=_schema)
    options = parser.parse_args(arguments)
    try:
        answer = options.run(options)
    except DocumentRefused as refused:
        for problem in refused.problems:
            print(problem, file=sys.stderr)
        return REFUSED
    except (CoreError, OSError) as error:
        print(error, file=sys.stderr)
        return REFUSED
    json.dump(answer, sys.stdout, ensure_ascii=False, indent=2, allow_nan=False)
    sys.stdout.write("\n")
    return 0


def _assess(options: argparse.Namespace) -> dict[str, Any]:
    from core.diagnosis import assess
    from core.document import read_document

    return assess(read_document(_bytes(options.file)))


def _calc(options: argparse.Namespace) -> dict[str, Any]:
    from core.calculators import calculate
    from core.document.reading import parse_json

    return calculate(options.name, parse_json(_bytes("-")))


def _schema(_: argparse.Namespace) -> dict[str, Any]:
    from core.document import SCHEMA

    return SCHEMA


def _bytes(name: str) -> bytes:
    return sys.stdin.buffer.read() if name == "-" else Path(name).read_bytes()


if __name__ == "__main__":
    sys.exit(main())
