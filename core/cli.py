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
    simulate = commands.add_parser("simulate", help="write inspections with their hidden truth")
    simulate.add_argument("--seed", type=int, default=0, help="the same seed, the same files")
    simulate.add_argument("--count", type=int, default=1, help="how many")
    simulate.add_argument("--out", default=".", help="an existing folder")
    simulate.set_defaults(run=_simulate)
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


def _simulate(options: argparse.Namespace) -> dict[str, Any]:
    import numpy as np

    from core.document import check_document, write_document
    from core.simulation import draw_truth, record

    written = []
    for number in range(options.count):
        random = np.random.default_rng([options.seed, number])
        truth = draw_truth(random)
        document = check_document(record(truth, random))
        name = Path(options.out) / f"simulated-{options.seed}-{number}"
        inspection, hidden = name.with_suffix(".json"), name.with_suffix(".truth.json")
        inspection.write_bytes(write_document(document))
        hidden.write_text(json.dumps(truth.as_document(), indent=2) + "\n")
        written += [str(inspection), str(hidden)]
    return {"written": written}


def _schema(_: argparse.Namespace) -> dict[str, Any]:
    from core.document import SCHEMA

    return SCHEMA


def _bytes(name: str) -> bytes:
    return sys.stdin.buffer.read() if name == "-" else Path(name).read_bytes()


if __name__ == "__main__":
    sys.exit(main())
