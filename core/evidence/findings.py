"""From a document to findings: each what it is, where it stands, and how it is said."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cache
from statistics import median

from core.document.readings import final_of
from core.document.records import (
    Balance,
    CylinderRecord,
    Document,
    Misfires,
    Plug,
    Record,
    Swap,
    Tests,
)
from core.evidence import codes
from core.knowledge import knowledge
from core.knowledge.limits import limits
from core.language import say
from core.quantities import Figure, length_mm, percent, pressure_pa, spoken

NARROW, OVER, WIDE = limits().gap.narrow, limits().gap.over, limits().gap.wide
SAME_FIGURE = 1e-6  # One figure in two units is one figure.
PUFF_LOW, PUFF_HIGH = limits().puff.low, limits().puff.high
RUNNING = limits().running
FACE_WORDS = (
    "deposit_colour",
    "deposit_texture",
    "deposit_amount",
    "wetness",
    "wet_with",
    "smell",
)
DIRECT_PLUG = ("seating", "type_match", "insulator", "centre_electrode", "ground_electrode")
SOUND = {"clean", "sound"}
TAGGED = ("boot", "coil", "plug/outside", "plug/threads")


@dataclass(frozen=True)
class Finding:
    """One thing recorded about one cylinder.

    `channel` names the table that weighs it: a word of the face ("plug/..." in the face words),
    something heard of a misfire, or a channel of its own.
    """

    cylinder: int
    channel: str
    value: str
    path: str
    text: str


def findings(document: Document, doubted: frozenset[str] = frozenset()) -> list[Finding]:
    """Every finding in words; pressures are read by `pressures`.

    Parameters
    ----------
    document : Document
    doubted : frozenset of str
        Paths of readings that are probably a slip of units: no evidence.

    Returns
    -------
    list of Finding
        In the order of the cylinders.
    """
    found: list[Finding] = []
    for record in document.cylinders:
        found.extend(_of_cylinder(record))
    found.extend(_gaps(document, doubted))
    found.extend(_of_tests(document))
    found.extend(_first_puffs(document))
    return [finding for finding in found if finding.text and finding.path not in doubted]


def _finding(cylinder: int, channel: str, value: str, path: str, figure: str = "") -> Finding:
    phrase = knowledge().phrases.get(channel, {}).get(value, "")
    return Finding(cylinder, channel, value, path, say(phrase).replace("{value}", figure))


def _of_cylinder(record: CylinderRecord) -> Iterator[Finding]:
    number = record.number
    yield from _words(number, "well", record.well)
    plug = dict(record.plug.items())
    named = any(field in plug for field in FACE_WORDS)
    # Who named the face has said all that a glance could.
    fields = (*DIRECT_PLUG, *FACE_WORDS) if named else (*DIRECT_PLUG, "look")
    yield from _words(number, "plug", record.plug, (*fields, "gap_bridged", "gap_closed"))
    yield from _words(number, "borescope", record.borescope)
    for place, noted in _tagged(record):
        if noted:
            yield from _tags(number, place, noted, f"/cylinders/{number}/{place}")


def _tagged(record: CylinderRecord) -> Iterator[tuple[str, Sequence[str]]]:
    """Lists of words about one cylinder, each with its place."""
    yield "boot", record.boot
    yield "coil", record.coil
    yield "plug/outside", record.plug.outside
    yield "plug/threads", record.plug.threads


def _words(
    number: int, group: str, record: Record, fields: Sequence[str] | None = None
) -> Iterator[Finding]:
    """Each word that was said in one group; of some fields only, in their order, where given."""
    said = dict(record.items())
    for field in said if fields is None else fields:
        if field in said:
            value = said[field]
            word = ("yes" if value else "no") if isinstance(value, bool) else str(value)
            place = f"{group}/{field}"
            yield _finding(number, place, word, f"/cylinders/{number}/{place}")


def _tags(number: int, place: str, noted: Sequence[str], path: str) -> Iterator[Finding]:
    """What was noted, and what the word for clean or sound excludes; no more was looked for."""
    for word, channel in _tag_channels()[place]:
        if word in noted:
            yield _finding(number, channel, "yes", path)
        elif knowledge().channels[channel].unless in noted:
            yield _finding(number, channel, "no", path)


@cache
def _tag_channels() -> dict[str, list[tuple[str, str]]]:
    """By place, every word of its list with the channel that weighs it."""
    found: dict[str, list[tuple[str, str]]] = {place: [] for place in TAGGED}
    for channel in knowledge().channels:
        place, _, word = channel.partition(":")
        if word:
            found[place].append((word, channel))
    return found


def unweighed_words(document: Document) -> Iterator[tuple[str, str]]:
    """Words noted on boots, coils, shells and threads that no table weighs, with their place."""
    for record in document.cylinders:
        for place, noted in _tagged(record):
            weighed = {word for word, _ in _tag_channels()[place]}
            for word in noted:
                if word not in weighed | SOUND:
                    yield f"/cylinders/{record.number}/{place}", word


def _gaps(document: Document, doubted: frozenset[str]) -> Iterator[Finding]:
    """Each gap against the specification, or else against the other plugs' middle."""
    measured: dict[int, Figure] = {}
    for record in document.cylinders:
        gap = gap_of(record.plug)
        if gap and f"/cylinders/{record.number}/plug/gap" not in doubted:
            measured[record.number] = gap
    wanted = specified_gap_mm(document)
    for number, gap in measured.items():
        others = [length_mm(other) for at, other in measured.items() if at != number]
        reference = wanted or (median(others) if len(others) >= 2 else None)
        if reference is None:
            continue
        ratio = length_mm(gap) / reference
        least = document.engine.specification.gap_min
        # Under the least it is compared with that, not with the widest.
        under = (
            bool(least) and length_mm(gap) < length_mm(least) / OVER if least else ratio < NARROW
        )
        band = (
            "within"
            if _specified(document, gap)
            else "narrow"
            if under
            else "within"
            if ratio < OVER
            else "over"
            if ratio < WIDE
            else "wide"
        )
        yield _finding(number, "gap_ratio", band, f"/cylinders/{number}/plug/gap", spoken(gap))


def _specified(document: Document, gap: Figure) -> bool:
    """Whether a gap lies in the range that the specification gives, in whatever units."""
    specification = document.engine.specification
    if specification.gap_min is None or specification.gap_max is None:
        return False
    low, high = length_mm(specification.gap_min), length_mm(specification.gap_max)
    return low * (1 - SAME_FIGURE) <= length_mm(gap) <= high * (1 + SAME_FIGURE)


def gap_of(plug: Plug) -> Figure | None:
    """A plug's gap as measured, or else the middle of a blade that passes and one that does not."""
    if plug.gap is not None or plug.gap_passes is None or plug.gap_refuses is None:
        return plug.gap
    passes, refuses = length_mm(plug.gap_passes), length_mm(plug.gap_refuses)
    return Figure((passes + refuses) / 2, "mm") if passes <= refuses else None


def specified_gap_mm(document: Document) -> float | None:
    """The widest gap the specification allows, or the one figure it gives. [mm]"""
    given = document.engine.specification.gap_max or document.engine.specification.gap_min
    return length_mm(given) if given else None


def coded_cylinders(document: Document) -> dict[int, str]:
    """Cylinders that a misfire code names, with the code."""
    return codes.misfiring(document.inspection.trouble_codes, document.engine.cylinders)


def _of_tests(document: Document) -> Iterator[Finding]:
    tests = document.tests
    coded = coded_cylinders(document)
    cleared = document.inspection.codes_cleared_recently
    for number in range(1, document.engine.cylinders + 1) if coded else ():
        if cleared and number not in coded:
            continue  # Its monitor may not have run since: that nothing is stored says nothing.
        value = "coded" if number in coded else "silent"
        code = coded.get(number, "")
        yield _finding(number, "trouble_code", value, "/inspection/trouble_codes", code)
    for channel, cylinder, word, place in _heard_and_seen(tests):
        if word is not None:
            yield _finding(cylinder, channel, word, f"/tests/{place}")
    yield from _balance(tests.balance)
    yield from _misfires(tests.misfires)
    for swap in tests.swap:
        result = swap_result(swap)
        if result is not None:
            yield _finding(swap.source, f"swap/{swap.part}", result, swap_path(swap))


def _heard_and_seen(tests: Tests) -> Iterator[tuple[str, int, str | None, str]]:
    """Tests that say one word of one cylinder: channel, cylinder, word, place."""
    for noise in tests.noise:
        # What goes with heat is the manifold's, more likely than a plug's.
        puff = noise.kind if noise.kind == "puff" and not noise.fades_when_warm else None
        yield "noise", noise.cylinder, puff, f"noise/{noise.cylinder}/kind"
    for spark in tests.spark:
        channel = f"spark/{spark.condition or 'tester'}"
        yield channel, spark.cylinder, spark.result, f"spark/{spark.cylinder}/result"
    for injector in tests.injector:
        number = injector.cylinder
        yield "injector/pulse", number, injector.pulse, f"injector/{number}/pulse"
        yield "injector/flow", number, injector.flow, f"injector/{number}/flow"
    for reread in tests.reread:
        yield "reread", reread.cylinder, reread.result, f"reread/{reread.cylinder}/result"
    for look in tests.port_look:
        yield "port_look", look.cylinder, look.piston, f"port_look/{look.cylinder}/piston"


def _first_puffs(document: Document) -> Iterator[Finding]:
    """First puff over final, against the same gauge's other cylinders; two say nothing."""
    for test in document.tests.compression:
        shares = {}
        for reading in test.readings:
            last = final_of(reading)
            final = pressure_pa(last) if last else 0.0
            first = pressure_pa(reading.strokes[0]) if reading.strokes else 0.0
            if test.kind == "dry" and 0 < first <= final:
                shares[reading.cylinder] = first / final
        for cylinder, share in shares.items():
            others = [other for at, other in shares.items() if at != cylinder]
            if len(others) < 2:
                continue
            ratio = share / median(others)
            value = "builds" if ratio < PUFF_LOW else "stays" if ratio > PUFF_HIGH else "alike"
            path = f"/tests/compression/{test.id}/readings/{cylinder}/strokes"
            figure = say(
                "{share} of the final, the others' {others}",
                share=percent(share),
                others=percent(median(others)),
            )
            yield _finding(cylinder, "first_puff", value, path, figure)


def swap_path(swap: Swap) -> str:
    """Where a swap's result stands in the record."""
    return f"/tests/swap/{swap.id}/result" if swap.id else "/tests/swap"


def swap_result(swap: Swap) -> str | None:
    """moved, stayed or vanished; None while unclear. The contract allows either field."""
    if swap.result is not None:
        return None if swap.result == "unclear" else swap.result
    if swap.fault_moved is not None:
        return "moved" if swap.fault_moved else "stayed"
    return None


def _balance(told: Sequence[Balance]) -> Iterator[Finding]:
    drops = [one.rpm_drop for one in told if one.rpm_drop is not None]
    middle = median(drops) if len(drops) >= 3 else 0.0
    for one in told:
        felt: str | None = one.felt
        if felt is None and middle > 0 and one.rpm_drop is not None:
            share = one.rpm_drop / middle
            felt = (
                "none"
                if share < RUNNING.dead_share
                else "slight"
                if share < RUNNING.weak_share
                else "clear"
            )
        if felt is not None:
            yield _finding(one.cylinder, "balance", felt, f"/tests/balance/{one.cylinder}")


def _misfires(told: Sequence[Misfires]) -> Iterator[Finding]:
    counts = {one.cylinder: one.count for one in told if one.count is not None}
    for cylinder, count in counts.items():
        others = [other for at, other in counts.items() if at != cylinder]
        middle = median(others) if others else 0
        many = count >= max(RUNNING.least_count, RUNNING.count_factor * middle)
        value = "many" if many else "few"
        path = f"/tests/misfires/{cylinder}/count"
        yield _finding(cylinder, "misfires", value, path, str(count))
