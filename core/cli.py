"""`bin/fiacre`: the core from a shell, without a database or a server."""

from __future__ import annotations

import argparse
import json
import os
import sys
from pathlib import Path
from typing import Any

from core.errors import CoreError, DocumentRefused
from core.language import ENGLISH, LANGUAGES, speaking
from core.vocabulary import SpokenRound, words_of

REFUSED = 2


def main(arguments: list[str] | None = None) -> int:
    """Run one command; 0 if it answered, 2 if it refused its input."""
    parser = argparse.ArgumentParser(prog="fiacre", description="A second opinion on an engine.")
    commands = parser.add_subparsers(dest="command", required=True)
    assess = commands.add_parser("assess", help="assess an inspection document")
    assess.add_argument("file", help="a JSON document, or - for standard input")
    assess.add_argument("--language", choices=LANGUAGES, default=ENGLISH, help="of its sentences")
    assess.set_defaults(run=_assess)
    calc = commands.add_parser("calc", help="compute one thing: a JSON object in, one out")
    calc.add_argument("name", help="units, blades, torque, ...; a wrong name lists all")
    calc.set_defaults(run=_calc)
    simulate = commands.add_parser("simulate", help="write inspections with their hidden truth")
    simulate.add_argument("--seed", type=int, default=0, help="the same seed, the same files")
    simulate.add_argument("--count", type=int, default=1, help="how many")
    simulate.add_argument("--out", default=".", help="an existing folder")
    simulate.set_defaults(run=_simulate)
    trace = commands.add_parser("trace", help="relative compression from a cranking trace")
    trace.add_argument("file", help="CSV with time [s] and current [A], or - for standard input")
    trace.add_argument("--order", required=True, help="the firing order, such as 1,3,4,2")
    trace.add_argument("--mark", help="a cylinder and its second on compression, such as 1@2.35")
    trace.set_defaults(run=_trace)
    verify = commands.add_parser("verify", help="check a signed inspection against its digest")
    verify.add_argument("file", help="the signed file, or - for standard input")
    verify.add_argument("--digest", help="as printed on the report")
    verify.set_defaults(run=_verify)
    say = commands.add_parser("say", help="lines of plain English in, proposed observations out")
    say.add_argument("--document", help="the inspection that they are about, a JSON document")
    say.add_argument(
        "--round", choices=words_of(SpokenRound), help="where in the round the speaker is"
    )
    say.set_defaults(run=_say)
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
    if answer is None:
        return 0  # It said line by line what it had to say.
    try:
        json.dump(answer, sys.stdout, ensure_ascii=False, indent=2, allow_nan=False)
        sys.stdout.write("\n")
        sys.stdout.flush()
    except BrokenPipeError:  # Whoever read it has seen enough.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    return 0


def _assess(options: argparse.Namespace) -> dict[str, Any]:
    from core.document import read_document
    from core.telling import assess

    document = read_document(_bytes(options.file))
    with speaking(options.language):
        return assess(document)


def _say(options: argparse.Namespace) -> None:
    """One JSON object a line, as each line comes; a line that says nothing is answered too."""
    from core.document import read_document
    from core.narration import Listener

    document = read_document(_bytes(options.document)) if options.document else None
    listener = Listener(document, options.round)
    try:
        for raw in sys.stdin.buffer:
            line = raw.decode("utf-8", "replace").rstrip("\r\n")
            heard = listener.hear(line).written()
            sys.stdout.write(json.dumps(heard, ensure_ascii=False) + "\n")
            sys.stdout.flush()
    except BrokenPipeError:  # Whoever read it has seen enough.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())


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


def _trace(options: argparse.Namespace) -> dict[str, Any]:
    from dataclasses import asdict

    from core.signals import read_trace, relative_compression

    order = [_number("--order", text, int) for text in options.order.split(",")]
    if sorted(order) != list(range(1, len(order) + 1)):
        raise CoreError("order", "--order", options.order, "every cylinder once")
    mark = None
    if options.mark:
        cylinder, _, second = options.mark.partition("@")
        mark = (_number("--mark", cylinder, int), _number("--mark", second, float))
        if mark[0] not in order:
            raise CoreError("mark", "--mark", options.mark, "a cylinder of the firing order")
    shares = relative_compression(read_trace(_bytes(options.file)), order, mark)
    return {"relative_compression": [asdict(share) for share in shares]}


def _verify(options: argparse.Namespace) -> dict[str, Any]:
    from core.document.reading import parse_json
    from core.document.signing import verify

    said = verify(parse_json(_bytes(options.file)), options.digest)
    if not said["matches"]:
        raise CoreError("digest", "/digest", said["digest"], "the digest that was signed")
    return said


def _number(name: str, text: str, kind: type[int] | type[float]) -> Any:
    try:
        return kind(text)
    except ValueError:
        raise CoreError("number", name, text, "a number") from None


def _schema(_: argparse.Namespace) -> dict[str, Any]:
    from core.document import SCHEMA

    return SCHEMA


def _bytes(name: str) -> bytes:
    return sys.stdin.buffer.read() if name == "-" else Path(name).read_bytes()


if __name__ == "__main__":
    sys.exit(main())
