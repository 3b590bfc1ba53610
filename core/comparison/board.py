"""Every kind of evidence as a strip across the cylinders, for the eye to compare.

A strip holds one figure a cylinder on one scale, the band and the lines it is judged by, who is odd
by which statistic, and the pattern that the odd ones make. It judges nothing that the model has not
judged; it shows.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from statistics import median_low
from typing import Any

from core.assessment import Assessment
from core.comparison.leakdown_schools import lost_percent
from core.comparison.outliers import odd_ones
from core.comparison.patterns import pattern, split
from core.comparison.schools import FLOOR_PSI
from core.document.readings import final_of
from core.document.records import CompressionTest, Document, Engine
from core.engine.layout import arrangement
from core.knowledge import knowledge
from core.knowledge.limits import limits
from core.language import say, word_said
from core.quantities import PSI_PA, Dimension, from_si, length_mm, percent, pressure_pa, spoken

# A deposit's colour on the way from lean to rich; other colours are residues, not mixture.
SCALE = {"white": 1, "grey": 2, "tan": 3, "brown": 4, "black": 5}
SCALE_WORDS = ("", "white", "grey", "tan", "brown", "black")
STEPS_APART = limits().compared.shades_apart  # From the others: a neighbouring shade is nothing.
NEAR_LEAST = 0.8
LENGTH = Dimension.LENGTH
PRESSURE = Dimension.PRESSURE


@dataclass(frozen=True)
class Mark:
    """One cylinder's figure: where it stands on the scale, how it is said, why it is odd."""

    cylinder: int
    value: float
    shown: str
    basis: str
    odd: tuple[str, ...] = ()


@dataclass(frozen=True)
class Line:
    """A limit that somebody draws."""

    label: str
    value: float


@dataclass(frozen=True)
class Strip:
    """One kind of evidence across the cylinders; `low` and `high` are the ends of its scale."""

    id: str
    label: str
    unit: str
    low: float
    high: float
    marks: tuple[Mark, ...]
    band: tuple[float, float] | None = None
    lines: tuple[Line, ...] = ()
    pattern: str = ""
    ends: tuple[str, str] = ("", "")


@dataclass
class _Figures:
    """Figures of one kind on their way to a strip."""

    id: str
    label: str
    unit: str
    values: dict[int, float]
    shown: dict[int, str] = field(default_factory=dict)
    band: tuple[float, float] | None = None
    lines: tuple[Line, ...] = ()
    flagged: frozenset[int] = frozenset()
    flag: str = ""  # Why a cylinder is flagged.
    from_zero: bool = True  # A gap differs by hundredths: its scale begins near the least.


def board(checked: Mapping[str, Any], written: Mapping[str, Any]) -> list[Strip]:
    """The strips of one inspection, only those that hold anything.

    Parameters
    ----------
    checked : mapping
        A checked document.
    written : mapping
        Its assessment: the expected band and what the deciding school says come from there.
    """
    document, assessment = Document.of(checked), Assessment.of(written)
    made = [_deposits(document), _gaps(document)]
    made += _pressures(document, assessment)
    made += [_first_puffs(document), _leakdown(document, assessment), *_counts(document)]
    return [one if isinstance(one, Strip) else _strip(one, document.engine) for one in made if one]


def orders(engine: Engine) -> dict[str, list[list[int]]]:
    """Ways to put the cylinders in a row: by number, in firing order, and as they sit, by bank."""
    arranged = arrangement(engine)
    ways = {"number": [list(arranged.cylinders)]}
    firing = list(engine.firing_order)
    if sorted(firing) == list(arranged.cylinders):
        ways["firing"] = [firing]
    banks = [list(bank.cylinders) for bank in arranged.banks]
    if sorted(number for bank in banks for number in bank) == list(arranged.cylinders):
        ways["position"] = banks
    return ways


def _strip(figures: _Figures, engine: Engine) -> Strip:
    values = figures.values
    named = odd_ones(values)
    marks = tuple(
        Mark(
            number,
            value,
            figures.shown.get(number, f"{value:.4g} {figures.unit}".strip()),
            _beside_peers(number, values),
            (
                *((figures.flag,) if number in figures.flagged else ()),
                *(odd.text for odd in named[number]),
            ),
        )
        for number, value in sorted(values.items())
    )
    drawn = [*values.values(), *(figures.band or ()), *(line.value for line in figures.lines)]
    odd = {mark.cylinder for mark in marks if mark.odd}
    return Strip(
        figures.id,
        figures.label,
        figures.unit,
        0.0 if figures.from_zero else min(drawn) * NEAR_LEAST,
        max(drawn) * 1.05 or 1.0,
        marks,
        figures.band,
        figures.lines,
        pattern(engine, odd) or split(engine, values, knowledge().pressure["odd"]["least_share"]),
    )


def _beside_peers(number: int, values: Mapping[int, float]) -> str:
    """A figure against the mean of all others."""
    others = [value for other, value in values.items() if other != number]
    if not others or sum(others) <= 0:
        return say("no others to compare with")
    mean = sum(others) / len(others)
    return say(
        "the others' mean is {mean:.4g}; {apart}",
        mean=mean,
        apart=percent(values[number] / mean - 1, "+"),
    )


def _deposits(document: Document) -> Strip | None:
    colours = {
        record.number: record.plug.deposit_colour
        for record in document.cylinders
        if record.plug.deposit_colour in SCALE
    }
    if not colours:
        return None
    steps = {number: SCALE[str(colour)] for number, colour in colours.items()}
    marks = tuple(_shade(number, steps) for number in sorted(steps))
    told = pattern(document.engine, {mark.cylinder for mark in marks if mark.odd})
    return Strip(
        "deposits", say("Deposits, lean to rich"), "", 0.0, 5.5, marks, (2.5, 4.5), (), told,
        (say("lean, hot"), say("rich, sooty")),
    )  # fmt: skip


def _shade(number: int, steps: Mapping[int, int]) -> Mark:
    """One plug's colour beside that of the others."""
    others = [step for other, step in steps.items() if other != number]
    word = word_said(SCALE_WORDS[steps[number]])
    if not others:
        return Mark(number, float(steps[number]), word, say("no others to compare with"))
    middle = median_low(others)
    apart = abs(steps[number] - middle)
    odd = (
        (say("{apart} shades from the others", apart=apart),)
        if len(others) > 1 and apart >= STEPS_APART
        else ()
    )
    basis = say("the others are {shade}", shade=word_said(SCALE_WORDS[middle]))
    return Mark(number, float(steps[number]), word, basis, odd)


def _gaps(document: Document) -> _Figures | None:
    raw = {one.number: one.plug.gap for one in document.cylinders if one.plug.gap}
    if not raw:
        return None
    given = document.engine.specification
    unit = next(iter(raw.values())).unit
    ends = [length_mm(end) for end in (given.gap_min, given.gap_max) if end]
    in_unit = [from_si(end / 1e3, unit, LENGTH).value for end in ends]
    values = {n: from_si(length_mm(one) / 1e3, unit, LENGTH).value for n, one in raw.items()}
    band = (in_unit[0], in_unit[-1]) if ends else None
    outside = frozenset(
        number for number, value in values.items() if band and not _within(value, band)
    )
    shown = {number: spoken(one) for number, one in raw.items()}
    return _Figures(
        "gap",
        say("Gap"),
        unit,
        values,
        shown,
        band,
        (),
        outside,
        say("outside the specification"),
        False,
    )


def _within(value: float, band: tuple[float, float]) -> bool:
    return band[0] * 0.999 <= value <= band[1] * 1.001


def _pressures(document: Document, assessment: Assessment) -> Iterable[_Figures]:
    """One strip a test: the last dry one with every school's line."""
    tests = document.tests.compression
    expected, rules = assessment.compression.expected, assessment.compression.rules
    failing = next((rule.failing for rule in rules if rule.decides), ())
    unit = expected.low.unit
    last_dry = max((at for at, test in enumerate(tests) if test.kind == "dry"), default=None)
    for at, test in enumerate(tests):
        raw = {item.cylinder: final for item in test.readings if (final := final_of(item))}
        if not raw:
            continue
        values = {n: from_si(pressure_pa(one), unit, PRESSURE).value for n, one in raw.items()}
        shown = {number: spoken(one, 4) for number, one in raw.items()}
        made = _Figures(f"compression-{at}", _named(tests, at), unit, values, shown)
        if test.kind == "dry":
            made.band = (expected.low.value, expected.high.value)
        if at == last_dry:
            made.lines = tuple(_lines(document, values, unit))
            made.flagged, made.flag = frozenset(failing), say("fails the school that decides")
        yield made


def _kind(kind: str) -> str:
    return say("Dry compression") if kind == "dry" else say("Wet compression")


def _named(tests: Sequence[CompressionTest], at: int) -> str:
    kind = tests[at].kind
    before = sum(test.kind == kind for test in tests[:at])
    return _kind(kind) + (say(", reading {at}", at=before + 1) if before else "")


def _lines(document: Document, values: dict[int, float], unit: str) -> Iterable[Line]:
    """Where each school draws its lower limit."""
    if len(values) > 1:
        highest, mean = max(values.values()), sum(values.values()) / len(values)
        floor = from_si(FLOOR_PSI * PSI_PA, unit, PRESSURE).value
        yield Line(say("75 % of the highest"), 0.75 * highest)
        yield Line(say("70 %, or 100 psi"), max(0.7 * highest, floor))
        yield Line(say("mean less 10 %"), 0.9 * mean)
        yield Line(say("mean less 15 %"), 0.85 * mean)
    least = document.engine.specification.compression_min
    if least:
        yield Line(say("maker's minimum"), from_si(pressure_pa(least), unit, PRESSURE).value)


def _first_puffs(document: Document) -> _Figures | None:
    values = {}
    for test in document.tests.compression:
        for item in test.readings:
            final = final_of(item)
            if test.kind == "dry" and item.strokes and final and pressure_pa(final) > 0:
                first = pressure_pa(item.strokes[0])
                values[item.cylinder] = 100 * first / pressure_pa(final)
    return _Figures("first-puff", say("First puff, of the final"), "%", values) if values else None


def _leakdown(document: Document, assessment: Assessment) -> _Figures | None:
    values = lost_percent(document)
    if not values:
        return None
    schools = [one for one in knowledge().pressure["leakdown_school"] if "most" in one]
    lines = tuple(Line(say(one["label"]), one["most"]) for one in schools)
    made = _Figures("leakdown", say("Leak-down, lost"), "%", values, lines=lines)
    deciding = [one for one in assessment.leakdown.rules if one.decides]
    made.flagged = frozenset(number for one in deciding for number in one.failing)
    made.flag = say("fails the school that decides")
    return made


def _counts(document: Document) -> Iterable[_Figures]:
    tests = document.tests
    shares = {one.cylinder: one.share for one in tests.relative if one.share is not None}
    if shares:
        yield _Figures("relative", say("Cranking trace, of the highest"), "%", shares)
    misses = {one.cylinder: float(one.count) for one in tests.misfires if one.count is not None}
    if misses:
        yield _Figures("misfires", say("Misfire count"), "", misses)
