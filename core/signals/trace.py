"""A trace as a table of two columns: time and value, each with its unit in the heading.

time [s],current [A]
0.000,412.5
0.002,398.1
"""

from __future__ import annotations

import csv
import io
import re
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from core.errors import CoreError
from core.language import say

HEADING = re.compile(r"^\s*(time|current|pressure)\s*[\[(]\s*([^\])]+?)\s*[\])]\s*$", re.IGNORECASE)
TIMES = {"s": 1.0, "ms": 1e-3, "us": 1e-6}
VALUES = {
    "current": {"A": 1.0, "mA": 1e-3},
    "pressure": {"Pa": 1.0, "kPa": 1e3, "bar": 1e5, "psi": 6894.757},
}
MOST_BYTES = 20_000_000
LEAST_SAMPLES = 50
GAP = 20.0  # So many times the usual step and more nothing was sampled.
MOST_STRETCHED = 4.0  # A stretch over what its usual step would make of it.


class TraceRefused(CoreError):
    """A trace that cannot be read; its path names the line."""


@dataclass(frozen=True, eq=False)
class Trace:
    """Samples of one instrument.

    Attributes
    ----------
    quantity : str
        `current` or `pressure`.
    seconds : ndarray, shape (n,)
        Rising. [s]
    values : ndarray, shape (n,)
        [A] or [Pa]
    """

    quantity: str
    seconds: NDArray[np.float64]
    values: NDArray[np.float64]


def read_trace(data: bytes) -> Trace:
    """Read a trace, or refuse it with the line that is wrong.

    Raises
    ------
    TraceRefused
        If it is too long, no text, has no headings with units, or a line is no pair of numbers
        with rising time.
    """
    if len(data) > MOST_BYTES:
        raise TraceRefused("too-long", "/", len(data), say("at most {most} bytes", most=MOST_BYTES))
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise TraceRefused("not-text", "/", data[:20], say("text in UTF-8")) from None
    separator = ";" if ";" in text.partition("\n")[0] else ","
    try:
        rows = list(csv.reader(io.StringIO(text, newline=None), delimiter=separator))
    except csv.Error as error:
        raise TraceRefused("not-text", "/", text[:20], str(error)) from None
    if not rows:
        raise TraceRefused("empty", "/line/1", "", say("headings with units"))
    columns = [_heading(cell, at) for at, cell in enumerate(rows[0][:2])]
    if len(columns) != 2 or columns[0][0] != "time" or columns[1][0] == "time":
        raise TraceRefused(
            "heading", "/line/1", rows[0], say("time [s] and current [A] or pressure")
        )
    found = np.array([_pair(row, line) for line, row in enumerate(rows[1:], start=2) if any(row)])
    if len(found) < LEAST_SAMPLES:
        raise TraceRefused(
            "too-short",
            "/",
            len(found),
            say("at least {least} samples", least=LEAST_SAMPLES),
        )
    seconds, values = found[:, 0] * columns[0][1], found[:, 1] * columns[1][1]
    back = np.flatnonzero(np.diff(seconds) <= 0)
    if back.size:
        line = int(back[0]) + 3
        raise TraceRefused(
            "time", f"/line/{line}", float(found[back[0] + 1, 0]), say("time that rises")
        )
    return Trace(columns[1][0], seconds, values)


def unbroken(trace: Trace) -> Trace:
    """The longest stretch of a trace without a gap: where nothing was sampled nothing is made up.

    Raises
    ------
    TraceRefused
        If its samples lie so unevenly that they have no rate.
    """
    steps = np.diff(trace.seconds)
    usual = float(np.median(steps))
    ends = np.flatnonzero(steps > GAP * usual) + 1
    pieces = np.split(np.arange(len(trace.seconds)), ends)
    longest = max(pieces, key=len)
    seconds = trace.seconds[longest]
    if len(longest) < LEAST_SAMPLES or seconds[-1] - seconds[0] > MOST_STRETCHED * usual * len(
        seconds
    ):
        raise TraceRefused(
            "uneven",
            "/",
            len(longest),
            say("at least {least} samples, evenly in time", least=LEAST_SAMPLES),
        )
    return Trace(trace.quantity, seconds, trace.values[longest])


def thinned(trace: Trace, most: int) -> Trace:
    """A trace for drawing: in each stretch its lowest and its highest value, so no rise is lost."""
    if len(trace.values) <= most:
        return trace
    kept = []
    for stretch in np.array_split(np.arange(len(trace.values)), most // 2):
        values = trace.values[stretch]
        kept += sorted({int(stretch[np.argmin(values)]), int(stretch[np.argmax(values)])})
    return Trace(trace.quantity, trace.seconds[kept], trace.values[kept])


def write_trace(trace: Trace) -> bytes:
    """The trace in the form that `read_trace` reads."""
    unit = "A" if trace.quantity == "current" else "Pa"
    lines = [f"time [s],{trace.quantity} [{unit}]"]
    pairs = zip(trace.seconds, trace.values, strict=True)
    lines += [f"{second:.5f},{value:.6g}" for second, value in pairs]
    return ("\n".join(lines) + "\n").encode()


def _heading(cell: str, at: int) -> tuple[str, float]:
    match = HEADING.match(cell)
    if not match:
        raise TraceRefused("heading", "/line/1", cell, say("a name and its unit, such as time [s]"))
    name, unit = match.group(1).lower(), match.group(2)
    units = TIMES if name == "time" else VALUES[name]
    if unit not in units:
        raise TraceRefused(
            "unit",
            "/line/1",
            unit,
            say("one of {units} for column {at}", units=", ".join(units), at=at + 1),
        )
    return name, units[unit]


def _pair(row: list[str], line: int) -> tuple[float, float]:
    try:
        second, value = (float(cell.strip().replace(",", ".")) for cell in row[:2])
    except ValueError:
        raise TraceRefused("number", f"/line/{line}", row[:2], say("two numbers")) from None
    if not np.isfinite(second + value):
        raise TraceRefused("number", f"/line/{line}", row[:2], say("finite numbers"))
    return second, value
