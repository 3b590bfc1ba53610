"""Figures as they are said: one forty six, oh point eight, eleven hundred, twelve four.

A run of number words can be read in several ways: one twenty eight is 128, or one and 28. Here are
all of them; which is meant is decided where it is known whose they are and of what.
"""

from __future__ import annotations

import tomllib
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Literal

from core.narration.tokens import written

Kind = Literal["plain", "said-short", "digits", "decimal"]

_TABLE = tomllib.loads((Path(__file__).parent / "numbers.toml").read_text())
UNITS: dict[str, int] = _TABLE["units"]
TEENS: dict[str, int] = _TABLE["teens"]
TENS: dict[str, int] = _TABLE["tens"]
LARGE: dict[str, int] = _TABLE["sizes"]
POINT: list[str] = _TABLE["between"]["point"]
JOINS: list[str] = _TABLE["between"]["joins"]
ARTICLE: list[str] = _TABLE["between"]["article"]
HALF: list[str] = _TABLE["between"]["half"]
LONGEST = 6  # Words of one run.


@dataclass(frozen=True)
class Number:
    """A figure in a run: its value, where it begins and ends, and how it was said."""

    value: float
    start: int
    end: int
    kind: Kind = "plain"

    @property
    def whole(self) -> bool:
        return self.value == int(self.value)


def is_number(text: str) -> bool:
    """Whether a figure can begin with this word."""
    return (
        written(text) is not None or text in UNITS or text in TEENS or text in TENS or text in POINT
    )


def run_at(texts: Sequence[str], at: int) -> int:
    """Where a run of number words that begins at a place ends; the place itself if none does."""
    end = at
    first, second = (*texts[at : at + 2], "", "")[:2]
    if first in LARGE or (first in ARTICLE and second in LARGE):
        end = at + 1
    while end < len(texts):
        if is_number(texts[end]) or (texts[end] in LARGE and end > at):
            end += 1
        elif list(texts[end : end + len(HALF)]) == HALF and end > at:
            return end + len(HALF)
        elif texts[end] in JOINS and end > at and texts[end - 1] in LARGE:
            follows = end + 1 < len(texts) and is_number(texts[end + 1])
            if not follows:
                return end
            end += 1
        else:
            break
    while end > at and texts[end - 1] in POINT:
        end -= 1
    return end


@lru_cache(maxsize=4096)
def readings(run: tuple[str, ...]) -> tuple[tuple[Number, ...], ...]:
    """Every way in which a run of number words falls into figures, the fewest figures first."""
    if len(run) > LONGEST:
        return (tuple(_first(run)),)
    found = list(_split(run, 0))
    return tuple(sorted(found, key=len))


def _first(run: tuple[str, ...]) -> Iterator[Number]:
    """A long run, each figure as long as can be; single ones are single."""
    at = 0
    if all(one in UNITS for one in run):
        yield from (Number(UNITS[one], n, n + 1) for n, one in enumerate(run))
        return
    while at < len(run):
        longest = max(_numbers(run, at), key=lambda one: one.end, default=None)
        if longest is None:
            return
        yield longest
        at = longest.end


def _split(run: tuple[str, ...], at: int) -> Iterator[tuple[Number, ...]]:
    if at == len(run):
        yield ()
        return
    for one in _numbers(run, at):
        for rest in _split(run, one.end):
            yield (one, *rest)


def _numbers(run: tuple[str, ...], at: int) -> Iterator[Number]:
    """Every figure that begins at a place."""
    seen = set()
    for one in _figures(run, at):
        half = list(run[one.end : one.end + len(HALF)]) == HALF
        made = Number(one.value + 0.5, at, one.end + len(HALF), one.kind) if half else one
        if (made.value, made.end) not in seen:
            seen.add((made.value, made.end))
            yield made


def _figures(run: tuple[str, ...], at: int) -> Iterator[Number]:
    first = run[at]
    value = written(first)
    if value is not None:
        yield Number(value, at, at + 1)
        return
    if first in POINT:
        for fraction, end in _fractions(run, at + 1):
            yield Number(fraction, at, end)
        return
    for whole in _wholes(run, at):
        yield whole
        if whole.end < len(run) and run[whole.end] in POINT:
            for fraction, end in _fractions(run, whole.end + 1):
                yield Number(whole.value + fraction, at, end)
        below = whole.value < 100 and whole.kind == "plain" and whole.end < len(run)
        if below and whole.value >= 1 and run[whole.end] in UNITS:  # Twelve four: 12.4.
            tenth = UNITS[run[whole.end]]
            if whole.value < 20 or not UNITS[run[whole.end]]:
                yield Number(whole.value + tenth / 10, at, whole.end + 1, "decimal")


def _fractions(run: tuple[str, ...], at: int) -> Iterator[tuple[float, int]]:
    """What stands behind a point: figures one by one, or as one number."""
    said = ""
    if at < len(run) and (value := written(run[at])) is not None:
        yield float(f"0.{run[at]}") if value == int(value) else value, at + 1
        return
    for one in _below_hundred(run, at):
        if one.value >= 10:
            yield one.value / 100, one.end
    while at < len(run) and run[at] in UNITS:
        said += str(UNITS[run[at]])
        at += 1
        yield float(f"0.{said}"), at


def _wholes(run: tuple[str, ...], at: int) -> Iterator[Number]:
    first = run[at]
    if first in ARTICLE or first in LARGE:
        start = at + (first in ARTICLE)
        if run[start : start + 1] == () or run[start] not in LARGE:
            return
        size = LARGE[run[start]]
        yield from _after(run, at, start + 1, size)
        return
    for one in _below_hundred(run, at):
        if one.end < len(run) and run[one.end] in LARGE:
            size = LARGE[run[one.end]]
            yield from _after(run, at, one.end + 1, one.value * size)
            continue
        yield one
        if 1 <= one.value < 100 and one.end < len(run):
            short = one.value if one.value < 10 else one.value if one.value < 30 else None
            for rest in _below_hundred(run, one.end):
                if short and rest.value >= 10 and not _large(run, rest.end):
                    yield Number(short * 100 + rest.value, at, rest.end, "said-short")
    digits = ""
    end = at
    while end < len(run) and run[end] in UNITS and len(digits) < 4:
        digits += str(UNITS[run[end]])
        end += 1
        if len(digits) >= 2 and digits[0] != "0":
            yield Number(float(digits), at, end, "digits")


def _large(run: tuple[str, ...], at: int) -> bool:
    return at < len(run) and run[at] in LARGE


def _after(run: tuple[str, ...], start: int, at: int, size: float) -> Iterator[Number]:
    """What follows the hundreds or thousands."""
    skip = at + 1 if at < len(run) and run[at] in JOINS else at
    if skip < len(run):
        for one in _wholes(run, skip) if size >= 1000 else _below_hundred(run, skip):
            if one.kind == "plain" and one.value < (1000 if size >= 1000 else 100):
                whole = size + one.value
                if one.end < len(run) and LARGE.get(run[one.end], 0) > size:
                    yield from _after(run, start, one.end + 1, whole * LARGE[run[one.end]])
                else:
                    yield Number(whole, start, one.end)
    if skip == at:
        yield Number(size, start, at)


def _below_hundred(run: tuple[str, ...], at: int) -> Iterator[Number]:
    if at >= len(run):
        return
    word = run[at]
    if word in TENS:
        follows = UNITS.get(run[at + 1], 0) if at + 1 < len(run) else 0
        if follows:
            yield Number(TENS[word] + follows, at, at + 2)
        yield Number(TENS[word], at, at + 1)
    elif word in TEENS:
        yield Number(TEENS[word], at, at + 1)
    elif word in UNITS:
        yield Number(UNITS[word], at, at + 1)
    elif (value := written(word)) is not None and value < 100 and value == int(value):
        yield Number(value, at, at + 1)
