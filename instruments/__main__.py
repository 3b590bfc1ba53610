"""`bin/fiacre instrument`: a simulated instrument on a simulated engine."""

from __future__ import annotations

import argparse
import sys
from functools import partial

import numpy as np

from core.errors import CoreError
from core.simulation.instruments import BenchEngine
from instruments.readings import INSTRUMENTS, Instrument
from instruments.stream import serve

REFUSED = 2


def main(arguments: list[str] | None = None) -> int:
    """Print one capture as CSV, or stream captures until interrupted."""
    options = _parser().parse_args(arguments)
    try:
        engine = BenchEngine(
            options.cylinders,
            dict(_pair("--leak", text) for text in options.leak),
            frozenset(int(_number("--missing", text)) for text in options.missing),
        )
        order = [int(_number("--order", text)) for text in options.order.split(",") if text]
        order = order or list(range(1, engine.cylinders + 1))
        if sorted(order) != list(range(1, engine.cylinders + 1)):
            raise CoreError("order", "--order", options.order, "every cylinder once")
        if not 1 <= options.strokes <= 60:
            raise CoreError("strokes", "--strokes", options.strokes, "from 1 to 60")
        random = np.random.default_rng(options.seed)
        instrument = INSTRUMENTS[options.name](engine, order, options.strokes, random)
        if options.serve is None:
            sys.stdout.write(instrument.as_csv(options.cylinder))
            return 0
        return _stream(instrument, options.serve)
    except (CoreError, OSError) as error:
        print(error, file=sys.stderr)
        return REFUSED


def _stream(instrument: Instrument, port: int) -> int:
    with serve(instrument, port) as server:
        print(f"{instrument.title} streams at 127.0.0.1:{server.server_port}", flush=True)
        try:
            server.serve_forever()
        except KeyboardInterrupt:
            return 0
    return 0


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="fiacre instrument", description="A simulated instrument on a simulated engine."
    )
    add = parser.add_argument
    add("name", choices=sorted(INSTRUMENTS))
    add("--serve", type=int, metavar="PORT", help="stream over loopback; without it, print CSV")
    add("--cylinders", type=int, default=4)
    add("--cylinder", type=int, default=1, help="the hole that the gauge is in, when printing")
    listed = partial(add, nargs="*", default=[])
    listed("--leak", metavar="N=MM2", help="leak above a healthy one, such as 3=1.5")
    listed("--missing", metavar="N", help="cylinders that miss")
    add("--order", default="", help="the firing order, such as 1,3,4,2")
    add("--strokes", type=int, default=6, help="how long a gauge is cranked for")
    add("--seed", type=int, default=0, help="the same seed, the same figures")
    return parser


def _pair(name: str, text: str) -> tuple[int, float]:
    number, _, area = text.partition("=")
    return int(_number(name, number)), _number(name, area)


def _number(name: str, text: str) -> float:
    try:
        return float(text)
    except ValueError:
        raise CoreError("number", name, text, "a number") from None


if __name__ == "__main__":
    sys.exit(main())
