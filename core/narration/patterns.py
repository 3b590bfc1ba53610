"""Whole sentences that mean something of their own: rows of patterns.toml over a sentence's words.

A row is a regular expression in which {who} is a cylinder's number, {num} a figure and {part} any
run of words; what it found fills the places and values of its facts.
"""

from __future__ import annotations

import re
import tomllib
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from core.narration.numbers import LARGE, POINT, TEENS, TENS, UNITS, readings

KINDS = ("plain", "said-short", "digits", "decimal")  # Which of several readings is likelier.
_WORDS = "|".join((*UNITS, *TEENS, *TENS))
_ONE = rf"(?:\d+(?:\.\d+)?|{_WORDS}|{'|'.join(POINT)}|{'|'.join(LARGE)})"
_FIGURE = rf"(?:a )?{_ONE}(?: (?:and )?{_ONE}){{0,8}}(?: and a half)?"
_NAME = rf"(?:(?:number|cylinder|plug|no|cylinders) )?(?:\d+|{'|'.join(UNITS)}|ten|eleven|twelve)"


@dataclass(frozen=True)
class Found:
    """A row that a sentence matched: the tokens it takes, and its facts."""

    start: int
    end: int
    names: tuple[float, ...]
    facts: tuple[tuple[str, Any], ...]
    takes: bool
    named: bool


@dataclass(frozen=True)
class Row:
    """One pattern."""

    said: re.Pattern[str]
    rounds: tuple[str, ...]
    facts: tuple[Mapping[str, Any], ...]
    takes: bool


@dataclass(frozen=True)
class Patterns:
    """All rows, in order: the first that matches a stretch of a sentence has it."""

    rows: tuple[Row, ...]

    def read(self, texts: Sequence[str], round_: str, units: Mapping[str, str]) -> Iterator[Found]:
        """What a sentence matches; `units` are those in force, by dimension."""
        joined = " ".join(texts)
        starts = [0]
        for text in texts:
            starts.append(starts[-1] + len(text) + 1)
        for row in self.rows:
            if row.rounds and round_ not in row.rounds:
                continue
            for match in row.said.finditer(joined):
                found = _found(row, match, starts, units)
                if found is not None:
                    yield found


def _found(
    row: Row, match: re.Match[str], starts: list[int], units: Mapping[str, str]
) -> Found | None:
    groups: dict[str, str | None] = {**units, **match.groupdict()}
    names = [number for name, said in groups.items() if name.startswith("who") and said
             for number in [figure(said.split()[-1])] if number is not None]  # fmt: skip
    start = max(at for at, place in enumerate(starts) if place <= match.start())
    end = next(at for at, place in enumerate(starts) if place > match.end())
    facts = []
    for fact in row.facts:
        value = _filled(fact["value"], groups)
        if value is None:
            return None
        facts.append((_placed(fact["path"], groups), value))
    named = "who" in groups and groups["who"] is not None
    own = names[:1] if named else ()
    return Found(start, end, tuple(own), tuple(facts), row.takes, named)


def _placed(path: str, groups: Mapping[str, str | None]) -> str:
    for name, said in groups.items():
        if said is not None and f"<{name}>" in path:
            number = figure(said.split()[-1] if name.startswith("who") else said)
            path = path.replace(f"<{name}>", f"{number:g}" if number is not None else said)
    return path


def _filled(value: Any, groups: Mapping[str, str | None]) -> Any:
    """A fact's value with what was found in its place; None where it cannot be."""
    if isinstance(value, dict):
        filled = {name: _filled(one, groups) for name, one in value.items()}
        return None if None in filled.values() else filled
    if isinstance(value, list):
        several = [_filled(one, groups) for one in value]
        if len(several) == 1 and isinstance(several[0], list):
            return several[0]
        return None if None in several else several
    if not isinstance(value, str) or not value.startswith("<"):
        return value
    name, _, how = value.strip("<>").partition("|")
    said = groups.get(name)
    if said is None:
        return None
    return _as(how, said) if how else said.strip()


def _as(how: str, said: str) -> Any:
    if how == "codes":
        return [one.upper() for one in re.findall(r"[pbcu][0-3][0-9a-f]{3}", said)]
    if how == "spelt":
        digits = [figure(one) for one in said.split()[1:]]
        return "P" + "".join(f"{one:g}" for one in digits if one is not None)
    if how == "code":
        return said.replace(" ", "").upper()
    if how == "one":
        return said.removesuffix("s") if said != "points" else said
    if how == "each":
        return [one.strip() for one in re.split(r" , | and | then ", said) if one.strip()]
    if how == "list":
        return [int(one) for part in re.findall(_ONE, said) if (one := figure(part)) is not None]
    number = figure(said.split()[-1] if how == "who" else said)
    if number is None:
        return None
    if how == "tenths":
        return number / 10
    return int(number) if number == int(number) else number


def figure(said: str) -> float | None:
    """A figure in words."""
    words = tuple(said.split())
    single = [one[0] for one in readings(words) if len(one) == 1] if words else []
    return min(single, key=lambda one: KINDS.index(one.kind)).value if single else None


@cache
def patterns() -> Patterns:
    """The rows, read once."""
    raw = tomllib.loads((Path(__file__).parent / "patterns.toml").read_text())
    macros = raw.get("macros", {})
    rows = []
    for one in raw["row"]:
        rows.append(
            Row(
                re.compile(_expanded(one["said"], macros)),
                tuple(one.get("rounds", ())),
                tuple(one["facts"]),
                one.get("takes", True),
            )
        )
    return Patterns(tuple(rows))


def _expanded(said: str, macros: Mapping[str, str]) -> str:
    for name, meant in macros.items():
        said = said.replace(f"{{{name}}}", f"(?:{meant})")
    said = re.sub(r"\{(who\w*)\}", lambda one: rf"(?P<{one[1]}>{_NAME})", said)
    said = re.sub(r"\{(num\w*)\}", lambda one: rf"(?P<{one[1]}>{_FIGURE})", said)
    said = re.sub(r"\{(any\w*)\}", lambda one: rf"(?P<{one[1]}>[^,:]+?)", said)
    return rf"(?:^|(?<= )){said}(?=$| )"
