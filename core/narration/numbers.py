"""Figures as they are said: one forty six, oh point eight, eleven hundred, a hundred and fifty."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

UNITS = {
    "zero": 0, "nought": 0, "naught": 0, "oh": 0, "one": 1, "two": 2, "three": 3, "four": 4,
    "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9,
}  # fmt: skip
TEENS = {
    "ten": 10, "eleven": 11, "twelve": 12, "thirteen": 13, "fourteen": 14, "fifteen": 15,
    "sixteen": 16, "seventeen": 17, "eighteen": 18, "nineteen": 19,
}  # fmt: skip
TENS = {
    "twenty": 20, "thirty": 30, "forty": 40, "fourty": 40, "fifty": 50, "sixty": 60,
    "seventy": 70, "eighty": 80, "ninety": 90,
}  # fmt: skip
OF_HUNDREDS = ("kpa", "kilopascals", "revs", "rpm")  # Twelve fifty of them are 1,250.
FIGURE = re.compile(r"\d+(?:,\d{3})*(?:\.\d+)?|\.\d+")


@dataclass(frozen=True)
class Number:
    """A figure, and where in the tokens it ends."""

    value: float
    end: int


def is_number(token: str) -> bool:
    """Whether a figure can begin with this token."""
    return (
        bool(FIGURE.fullmatch(token))
        or token in UNITS
        or token in TEENS
        or token in TENS
        or token == "point"
    )


def number_at(tokens: Sequence[str], at: int) -> Number | None:
    """The longest figure that begins at a token, if one does: ten and a half as well.

    Parameters
    ----------
    tokens : sequence of str
        In lower case.
    at : int
        Where to begin.
    """
    number = _figure_at(tokens, at)
    if number and tuple(tokens[number.end : number.end + 3]) == ("and", "a", "half"):
        return Number(number.value + 0.5, number.end + 3)
    return number


def _figure_at(tokens: Sequence[str], at: int) -> Number | None:
    """A figure without its halves."""
    if at >= len(tokens):
        return None
    if FIGURE.fullmatch(tokens[at]):
        return Number(float(tokens[at].replace(",", "")), at + 1)
    if tokens[at] == "hundred":
        return _after_hundred(tokens, 100, at + 1)
    if tokens[at] == "a" and at + 1 < len(tokens) and tokens[at + 1] == "hundred":
        return _after_hundred(tokens, 100, at + 2)
    whole = _whole(tokens, at)
    value, end = (whole.value, whole.end) if whole else (0.0, at)
    if end < len(tokens) and tokens[end] == "point":
        digits, end = _digits(tokens, end + 1)
        return Number(value + float(f"0.{digits}"), end) if digits else whole
    return whole


def _digits(tokens: Sequence[str], at: int) -> tuple[str, int]:
    """The figures behind a point: said one by one, or as one number."""
    said = ""
    while at < len(tokens):
        word = tokens[at]
        if word in UNITS:
            said += str(UNITS[word])
        elif word in TENS and not said:
            follows = UNITS.get(tokens[at + 1], 0) if at + 1 < len(tokens) else 0
            said, at = str(TENS[word] + follows), at + (1 if follows else 0)
        elif word in TEENS and not said:
            said = str(TEENS[word])
        elif word.isdigit() and not said:
            said = word
        else:
            break
        at += 1
    return said, at


def _whole(tokens: Sequence[str], at: int) -> Number | None:
    first = tokens[at]
    following = tokens[at + 1] if at + 1 < len(tokens) else ""
    if first in TEENS and following in TENS:
        rest = _below_hundred(tokens, at + 1)
        if rest and rest.end < len(tokens) and tokens[rest.end] in OF_HUNDREDS:
            return Number(TEENS[first] * 100 + rest.value, rest.end)
    if first in TENS or first in TEENS:
        below = _below_hundred(tokens, at)
        if below and below.end < len(tokens) and tokens[below.end] == "hundred":
            return _after_hundred(tokens, below.value * 100, below.end + 1)
        return below
    if first not in UNITS:
        return None
    unit = UNITS[first]
    if following == "thousand":
        rest = _whole(tokens, at + 2) if at + 2 < len(tokens) else None
        if rest and rest.value < 1000:
            return Number(unit * 1000 + rest.value, rest.end)
        return Number(unit * 1000, at + 2)
    if following == "hundred":
        return _after_hundred(tokens, unit * 100, at + 2)
    if unit and (following in TENS or following in TEENS):
        below = _below_hundred(tokens, at + 1)
        if below:
            return Number(unit * 100 + below.value, below.end)
    if following in UNITS and at + 2 < len(tokens) and tokens[at + 2] in UNITS:
        return Number(unit * 100 + UNITS[following] * 10 + UNITS[tokens[at + 2]], at + 3)
    return Number(float(unit), at + 1)


def _after_hundred(tokens: Sequence[str], hundreds: float, at: int) -> Number:
    skip = at + 1 if at < len(tokens) and tokens[at] == "and" else at
    below = _below_hundred(tokens, skip)
    return Number(hundreds + below.value, below.end) if below else Number(hundreds, at)


def _below_hundred(tokens: Sequence[str], at: int) -> Number | None:
    if at >= len(tokens):
        return None
    word = tokens[at]
    if word in TENS:
        follows = UNITS.get(tokens[at + 1], 0) if at + 1 < len(tokens) else 0
        return Number(TENS[word] + follows, at + (2 if follows else 1))
    if word in TEENS:
        return Number(TEENS[word], at + 1)
    if word in UNITS:
        return Number(UNITS[word], at + 1)
    return None
