"""Figures and numbers that were probably written otherwise than meant.

A slip names the likely intent and leaves the value alone. What is probably one is kept out of the
evidence, unless a dead cylinder would read the same: then the model weighs both.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise
from statistics import median

from core.caution import Caution
from core.document.readings import final_of
from core.document.records import Document
from core.evidence.codes import MISFIRE
from core.evidence.findings import specified_gap_mm
from core.hidden.level import Expectation
from core.knowledge.limits import limits
from core.language import say
from core.plugs.torque import PLAUSIBLE_NM
from core.quantities import Dimension, Figure, Quantity, length_mm, meant_unit, pressure_pa

PLAUSIBLE_GAP_MM = limits().gap.plausible_mm
GAP_FACTOR = limits().gap.slip_factor
OTHER_UNIT_FACTOR = limits().gap.other_unit_factor
SUSPICIOUS_PRESSURE = limits().slip.suspicious_pressure
MEANT_WITHIN = limits().slip.meant_within
MOST_THAT_FOLLOW = limits().slip.most_that_follow


def gap_slips(document: Document) -> Iterator[Caution]:
    """Gaps that fit only in another unit."""
    specified = specified_gap_mm(document)
    for record in document.cylinders:
        plug = record.plug
        for field, raw in (
            ("gap", plug.gap),
            ("gap_passes", plug.gap_passes),
            ("gap_refuses", plug.gap_refuses),
        ):
            if raw is None:
                continue
            value = length_mm(raw)
            low, high = PLAUSIBLE_GAP_MM
            if specified:
                low, high = specified / GAP_FACTOR, specified * GAP_FACTOR
            path = f"/cylinders/{record.number}/plug/{field}"
            if low <= value <= high:
                yield from _beside_specification(document, raw, path)
                continue
            meant = meant_unit(raw, Dimension.LENGTH, low / 1e3, high / 1e3)
            if meant:
                text = say(
                    "{raw} is no plug gap; {value:g} {meant} would be",
                    raw=raw,
                    value=raw.value,
                    meant=meant,
                )
                yield Caution("unit-slip", path, text, doubts=True)
            elif not PLAUSIBLE_GAP_MM[0] <= value <= PLAUSIBLE_GAP_MM[1]:
                text = say("{raw} is no plug gap; check the figure and its unit", raw=raw)
                yield Caution("unit-slip", path, text, doubts=True)


def _beside_specification(document: Document, raw: Figure, path: str) -> Iterator[Caution]:
    """A gap far from a specification that is written in another unit: worn, or a slip?"""
    given = document.engine.specification.gap_max or document.engine.specification.gap_min
    if given is None or given.unit == raw.unit:
        return
    value, wanted = length_mm(raw), length_mm(given)
    if 1 / OTHER_UNIT_FACTOR <= value / wanted <= OTHER_UNIT_FACTOR:
        return
    text = say(
        "{raw} is {value:.2g} mm beside {given} specified: is the gap so far off, or was it "
        "read in another unit?",
        raw=raw,
        value=value,
        given=given,
    )
    yield Caution("unit-slip", path, text)


def pressure_slips(document: Document, expected: Expectation) -> Iterator[Caution]:
    """Readings that fit only in another unit.

    When a whole test is off it is a slip and no evidence; a single reading far below the others
    may be a dead cylinder, so it is asked about and stays in the evidence.
    """
    for test in document.tests.compression:
        finals = [(item.cylinder, final_of(item)) for item in test.readings]
        given = [(cylinder, raw) for cylinder, raw in finals if raw is not None]
        if not given:
            continue
        values = [pressure_pa(raw) for _, raw in given]
        low, high = (bound * expected.pressure_pa for bound in SUSPICIOUS_PRESSURE)
        meant_low, meant_high = (bound * expected.pressure_pa for bound in MEANT_WITHIN)
        whole = max(values) < low or min(values) > high
        middle = median(values)
        meant_all = _meant_by_all([raw for _, raw in given], meant_low, meant_high)
        for (cylinder, raw), value in zip(given, values, strict=True):
            path = f"/tests/compression/{test.id}/readings/{cylinder}/pressure"
            if not whole and low * 0.75 <= value <= high:
                continue
            meant = (
                meant_all
                if whole
                else meant_unit(raw, Dimension.PRESSURE, 0.6 * middle, 1.6 * middle)
            )
            if meant:
                ask = say("was {value:g} {meant} meant?", value=raw.value, meant=meant)
                tail = "" if whole else say(" If not, this cylinder is all but dead.")
                text = say(
                    "{raw} is far from what this engine shows; {ask}{tail}",
                    raw=raw,
                    ask=ask,
                    tail=tail,
                )
                too_high = value > high
                yield Caution("unit-slip", path, text, doubts=whole or too_high)
            elif value > high:
                text = say(
                    "{raw} is more than this engine can show; check the figure and its unit",
                    raw=raw,
                )
                yield Caution("unit-slip", path, text, doubts=True)


def _meant_by_all(figures: Sequence[Figure], low: float, high: float) -> str | None:
    """The one other unit in which every figure of a test makes sense, if there is one."""
    meant = {meant_unit(raw, Dimension.PRESSURE, low, high) for raw in figures}
    return meant.pop() if len(meant) == 1 else None


def torque_slips(document: Document) -> Iterator[Caution]:
    """Plug torques that fit only in another unit."""
    specification = document.engine.specification
    low, high = PLAUSIBLE_NM
    for field, raw in (
        ("torque_new", specification.torque_new),
        ("torque_reused", specification.torque_reused),
    ):
        if raw is None or low <= Quantity.read(raw, Dimension.TORQUE).si <= high:
            continue
        meant = meant_unit(raw, Dimension.TORQUE, low, high)
        ask = (
            say("was {value:g} {meant} meant?", value=raw.value, meant=meant)
            if meant
            else say("check the figure and its unit.")
        )
        path = f"/engine/specification/{field}"
        yield Caution(
            "unit-slip",
            path,
            say("{raw} would strip a spark plug's thread; {ask}", raw=raw, ask=ask)
            if Quantity.read(raw, Dimension.TORQUE).si > high
            else say("{raw} would not hold a spark plug; {ask}", raw=raw, ask=ask),
        )


def numbering_slips(document: Document) -> Iterator[Caution]:
    """Cylinders that a code names and this engine does not have; two spellings of one engine."""
    engine = document.engine
    for code in document.inspection.trouble_codes:
        match = MISFIRE.match(code)
        if match and int(match.group(1)) > engine.cylinders:
            text = say(
                "{code} names cylinder {match}, and this engine has {cylinders}: is the code, "
                "or the number of cylinders, mistaken?",
                code=code,
                match=int(match.group(1)),
                cylinders=engine.cylinders,
            )
            yield Caution("numbering", "/inspection/trouble_codes", text)
    banks = [bank.cylinders for bank in engine.banks]
    order = engine.firing_order
    even = len(banks) == 2 and len(banks[0]) == len(banks[1])
    # Of two in a bank the one often follows the other: that is how flat and vee fours fire.
    if even and len(banks[0]) > MOST_THAT_FOLLOW and len(order) == engine.cylinders:
        side = {number: at for at, bank in enumerate(banks) for number in bank}
        same = sum(side[a] == side[b] for a, b in pairwise([*order, order[0]]))
        if same >= len(order) - 2:
            text = say(
                "Nearly all of one bank fires before the other: are the banks, or the numbers "
                "in them, as on this engine?"
            )
            yield Caution("numbering", "/engine/firing_order", text)
