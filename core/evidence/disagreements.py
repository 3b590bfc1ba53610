"""Two records of which one is mistaken: each is said with both, and neither convicts alone.

What to do about it is to read again; until then both are left out of the evidence.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import combinations
from statistics import median

from core.caution import Caution
from core.document.readings import final_of, held_of, made
from core.document.records import CompressionTest, Document
from core.evidence.findings import swap_path, swap_result
from core.knowledge import knowledge
from core.language import say, word_said
from core.quantities import length_mm, percent, pressure_pa

LEAST_PEERS = 3

Placed = Mapping[int, tuple[float, str]]
"""By cylinder, a figure and where it stands in the record."""


def disagreements(document: Document) -> Iterator[Caution]:
    """Every pair of records that cannot both be right."""
    yield from _read_twice(document)
    yield from _blades(document)
    yield from _swaps(document)
    yield from _gauge_against_tester(document)


def _said(cylinder: int, text: str, path: str, beside: str) -> Caution:
    told = say(
        "Cylinder {cylinder}: {text} Read both again; neither is weighed until then.",
        cylinder=cylinder,
        text=text,
    )
    return Caution("contradiction", path, told, doubts=True, beside=beside, cylinder=cylinder)


def _read_twice(document: Document) -> Iterator[Caution]:
    """The same cylinder in two tests of one kind, as warm, and far apart."""
    apart = knowledge().pressure["disagree"]["twice"]
    for one, other in combinations(document.tests.compression, 2):
        if (one.kind, one.engine_temperature) != (other.kind, other.engine_temperature):
            continue
        gauges = _two_gauges(one, other)
        if gauges:
            yield gauges
            continue
        again = {item.cylinder: item for item in other.readings if made(item)}
        for item in one.readings:
            second = again.get(item.cylinder)
            figures = [final_of(item), final_of(second) if second else None]
            read = [figure for figure in figures if figure is not None]
            if len(read) < 2 or not made(item):
                continue
            low, high = sorted(map(pressure_pa, read))
            if low < high / apart:
                text = say(
                    "read {first} and {second} in two tests of one kind.",
                    first=read[0],
                    second=read[1],
                )
                place = f"readings/{item.cylinder}/pressure"
                paths = [f"/tests/compression/{test.id}/{place}" for test in (one, other)]
                yield _said(item.cylinder, text, paths[0], paths[1])


def _two_gauges(one: CompressionTest, other: CompressionTest) -> Caution | None:
    """Two tests that say the same of every cylinder but for one factor: two gauges."""
    rule = knowledge().pressure["disagree"]
    first, second = (
        {item.cylinder: pressure_pa(final) for item in test.readings
         if made(item) and (final := final_of(item))}
        for test in (one, other)
    )  # fmt: skip
    factors = [second[n] / first[n] for n in first.keys() & second.keys() if first[n] > 0]
    if len(factors) < LEAST_PEERS or min(factors) <= 0:
        return None
    middle, level = median(factors), max(factors) / min(factors)
    if level > rule["one_factor"] or max(middle, 1 / middle) < rule["twice"]:
        return None
    base = f"/tests/compression/{other.id}/readings"
    return Caution(
        "two-gauges",
        base,
        say(
            "Two tests of one kind say the same of every cylinder, {share} of each other: that is "
            "two gauges. The first is weighed; cylinders are compared within one test.",
            share=percent(min(middle, 1 / middle)),
        ),
        doubts=True,
        also=tuple(f"{base}/{number}/pressure" for number in second),
    )


def _blades(document: Document) -> Iterator[Caution]:
    for record in document.cylinders:
        passes, refuses = record.plug.gap_passes, record.plug.gap_refuses
        if passes and refuses and length_mm(passes) > length_mm(refuses):
            base = f"/cylinders/{record.number}/plug"
            text = say(
                "a blade of {passes} passes and one of {refuses} does not.",
                passes=passes,
                refuses=refuses,
            )
            yield _said(record.number, text, f"{base}/gap_passes", f"{base}/gap_refuses")


def _swaps(document: Document) -> Iterator[Caution]:
    """A fault that moved with a part and stayed without it."""
    for one, other in combinations(document.tests.swap, 2):
        results = {swap_result(one), swap_result(other)}
        same = (one.part, one.source) == (other.part, other.source)
        if same and results == {"moved", "stayed"}:
            text = say(
                "the fault moved with its {part}, and stayed without it.", part=word_said(one.part)
            )
            paths = [swap_path(swap) for swap in (one, other)]
            yield _said(one.source, text, paths[0], paths[1])


def _gauge_against_tester(document: Document) -> Iterator[Caution]:
    """Low compression with a tight leak-down, or full compression with a huge one."""
    rule = knowledge().pressure["disagree"]
    pressures, lost = _dry(document), _lost(document)
    if len(pressures) < LEAST_PEERS or len(lost) < LEAST_PEERS:
        return
    for cylinder in sorted(pressures.keys() & lost.keys()):
        others = [value for at, (value, _) in pressures.items() if at != cylinder]
        usual = median(value for at, (value, _) in lost.items() if at != cylinder)
        share, own = pressures[cylinder][0] / max(median(others), 1.0), lost[cylinder][0]
        open_and_full = share >= rule["full"] and own >= max(rule["huge"], 3 * usual)
        tight_and_low = share <= rule["low"] and own <= min(rule["tight"], 2 * usual)
        if open_and_full or tight_and_low:
            text = say(
                "{share} of its peers on the gauge, {own:.0f} % lost on the tester.",
                share=percent(share),
                own=own,
            )
            yield _said(cylinder, text, pressures[cylinder][1], lost[cylinder][1])


def _dry(document: Document) -> Placed:
    found = {}
    for test in document.tests.compression:
        for item in test.readings:
            final = final_of(item)
            if test.kind == "dry" and final and made(item):
                path = f"/tests/compression/{test.id}/readings/{item.cylinder}/pressure"
                found[item.cylinder] = (pressure_pa(final), path)
    return found


def _lost(document: Document) -> Placed:
    found = {}
    for test in document.tests.leakdown:
        for reading in test.readings:
            both = held_of(test, reading)
            if both and both[0] > 0:
                path = f"/tests/leakdown/{test.id}/readings/{reading.cylinder}/held"
                found[reading.cylinder] = (100 * (1 - both[1] / both[0]), path)
    return found
