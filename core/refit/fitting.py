"""Each cylinder of a refit: its new plug, its gap, its torque, and what is still missing."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction

from core.caution import Caution
from core.document.records import Document, NewPlug, RefitCylinder, Specification
from core.errors import OutOfRange
from core.knowledge import knowledge
from core.language import later, number_said, ranged, say
from core.plugs.blades import MM_PER_UNIT, exact_mm
from core.plugs.gap import Window
from core.plugs.torque import LUBRICATED, Hint, Setting, Wrench, setting, turn_deg, usual
from core.quantities import Dimension, Figure, Quantity, from_si, length_mm
from core.refit.arrival import LOOKED_AT, Remark, remarks
from core.refit.slips import gap_slip, torque_slip, turn_slip

NOT_THE_MAKERS = ("advice", "guess")
USUAL_THREAD_MM = 14.0
FINE_WIRE = ("platinum", "iridium")


def window_of(document: Document) -> Window | None:
    """The gaps that the specification allows; one figure is both ends."""
    specification = document.engine.specification
    low = specification.gap_min or specification.gap_max
    high = specification.gap_max or low
    if not low or not high or length_mm(low) > length_mm(high):
        return None
    return Window(length_mm(low), length_mm(high))


# What the way in which the last plug came out says to whoever fits the next.
CAME = {
    "loose": later("the last one came loose: clean the seat, a new gasket, the full torque"),
    "over-tight": later("the last one was too tight: look at the thread, and mind the figure"),
    "seized": later("the last one was seized: clean the thread, and start this one by hand"),
}


def wrench_of(document: Document) -> Wrench:
    """The wrench of the record; where none is named, one that reads in the specification's unit."""
    given, specification = document.refit.wrench, document.engine.specification
    maker = specification.torque_new or specification.torque_reused
    return Wrench(
        given.unit or (maker.unit if maker else "N.m"),
        step=given.step,
        minimum=given.minimum,
        maximum=given.maximum,
        offset_m=length_mm(given.offset) / 1e3 if given.offset else 0.0,
        length_m=length_mm(given.length) / 1e3 if given.length else None,
        joint=bool(given.joint),
    )


@dataclass(frozen=True)
class Fitting:
    """One cylinder of the refit.

    Attributes
    ----------
    remarks : tuple of Remark
        On the new plug.
    unseen : tuple of str
        What of the arrival check was not looked at.
    gap : str
        `in`, `out`, `cannot-say` or `unmeasured`.
    change_mm : float or None
        To the gap aimed at: positive opens. [mm]
    setting : Setting or None
        None where no torque is known.
    unverified : tuple of str
        Which of its figures, torque or gap, nobody has from the maker.
    handle : str
        How far a handle's end goes for the turn from finger-tight.
    accepted : str
        Why a gap that is out goes in as it is; empty where nobody said so.
    """

    cylinder: int
    remarks: tuple[Remark, ...]
    unseen: tuple[str, ...]
    gap: str
    gap_text: str
    change_mm: float | None
    setting: Setting | None
    turn_deg: tuple[float, float]
    hints: tuple[Hint, ...]
    cautions: tuple[Caution, ...]
    fitted: bool
    torqued: bool
    begun: bool
    unverified: tuple[str, ...]
    handle: str
    accepted: str

    @property
    def stage(self) -> str:
        """How far this plug is on its way; what is wrong goes before how far it got."""
        if any(one.refuse for one in self.remarks):
            return "do-not-fit"
        if self.cautions:
            return "check-a-figure"
        if self.gap == "out" and not self.accepted:
            return "gap-out"
        if self.fitted:
            return "torqued" if self.torqued else "hand-tight"
        if self.gap == "in" or self.accepted:
            return "gap-in"
        if not self.begun:
            return "to-look-at"
        return "half-looked-at" if self.unseen else "looked-at"


def fittings(document: Document) -> list[Fitting]:
    """Every cylinder of the engine, in order, whether anything is recorded of it or not."""
    given = {one.cylinder: one for one in document.refit.cylinders}
    return [
        _fitting(given.get(number) or RefitCylinder(number), document)
        for number in range(1, document.engine.cylinders + 1)
    ]


def _fitting(given: RefitCylinder, document: Document) -> Fitting:
    number, specification = given.cylinder, document.engine.specification
    window, plug = window_of(document), given.plug
    old = document.cylinder(number).plug
    verdict, text, gap_mm = _gap(plug, window)
    aim = aim_mm(document)
    change = None
    if gap_mm is not None and aim is not None:
        near = knowledge().bench["gap"]["near_mm"]
        change = aim - gap_mm if abs(aim - gap_mm) > near or verdict == "out" else 0.0
    seat = plug.seat or specification.seat or "gasket"
    reused = bool(given.reused)
    made, hints = _setting(given, seat, document)
    turn = turn_deg(seat, reused=reused)
    base = f"/refit/cylinders/{number}"
    return Fitting(
        cylinder=number,
        remarks=tuple(remarks(plug, old, specification, window)) if not reused else (),
        unseen=()
        if reused or not plug.recorded
        else tuple(say(name) for field, name in LOOKED_AT.items() if getattr(plug, field) is None),
        gap=verdict,
        gap_text=text,
        change_mm=change,
        setting=made,
        turn_deg=turn,
        hints=hints,
        cautions=tuple(_slips(given, window, made, turn, base)),
        fitted=bool(given.fitted),
        torqued=bool(given.torqued),
        begun=plug.recorded or reused,
        unverified=tuple(_unverified(specification, reused=reused)),
        handle=_at_the_handle(document, turn),
        accepted=(given.accepted or "") if verdict == "out" else "",
    )


def _unverified(specification: Specification, *, reused: bool) -> Iterator[str]:
    """The figures of one plug that are advice or a guess."""
    torque = "torque_reused" if reused and specification.torque_reused else "torque_new"
    for name, fields in (("torque", (torque,)), ("gap", ("gap_min", "gap_max"))):
        if any(is_unverified(specification, field) for field in fields):
            yield name


def is_unverified(specification: Specification, field: str) -> bool:
    """Whether a figure is there that nobody has from the maker."""
    given = getattr(specification, field) is not None
    return given and specification.sources.get(field) in NOT_THE_MAKERS


def _at_the_handle(document: Document, turn: tuple[float, float]) -> str:
    """The turn from finger-tight as a way that a hand sees, for who has no torque wrench."""
    known = wrench_of(document).length_m
    length_mm = known * 1e3 if known else knowledge().bench["fitting"]["handle_mm"]
    ways = [f"{math.radians(one) * length_mm / 10:.0f}" for one in dict.fromkeys(turn)]
    return say(
        "{ways} cm at the end of a handle of {length:.0f} cm",
        ways=ranged(ways),
        length=length_mm / 10,
    )


def _gap(plug: NewPlug, window: Window | None) -> tuple[str, str, float | None]:
    """What was measured of the gap as it goes in: by blade, by a stack, or by a pair."""
    if stack := plug.gap_blades:
        total = sum((exact_mm(one) for one in stack), Fraction(0))
        text, gap_mm = _stacked(stack, total), float(total)
    elif plug.gap:
        gap_mm, text = length_mm(plug.gap), str(plug.gap)
    elif plug.gap_passes or plug.gap_refuses:
        return _pair(plug, window)
    else:
        return "unmeasured", say("not measured as it goes in"), None
    if window is None:
        return "cannot-say", say("{text}; no gap is specified", text=text), gap_mm
    return ("in" if window.holds(gap_mm) else "out"), text, gap_mm


def _stacked(stack: Sequence[Figure], total_mm: Fraction) -> str:
    """A stack and what it adds up to; the unit once where the blades share it."""
    unit = stack[0].unit
    alike = all(one.unit == unit for one in stack)
    said = [number_said(f"{one.value:g}") if alike else str(one) for one in stack]
    total = Figure(float(total_mm / MM_PER_UNIT[unit]), unit)
    return f"{' + '.join(said)} = {total}"


def _pair(plug: NewPlug, window: Window | None) -> tuple[str, str, float | None]:
    blades = (plug.gap_passes, plug.gap_refuses)
    passes, refuses = (length_mm(blade) if blade else None for blade in blades)
    told = zip(blades, (say("passes"), say("does not")), strict=True)
    text = ", ".join(f"{blade} {word}" for blade, word in told if blade)
    if window is None:
        return "cannot-say", say("{text}; no gap is specified", text=text), None
    try:
        return window.verdict(passes, refuses), text, None
    except OutOfRange:
        return "cannot-say", say("{text}: that cannot be, one of them is mistaken", text=text), None


def _setting(
    given: RefitCylinder, seat: str, document: Document
) -> tuple[Setting | None, tuple[Hint, ...]]:
    """What to set the wrench to for one plug, and what to mind beyond the setting itself."""
    specification = document.engine.specification
    reused, threads = bool(given.reused), given.threads or "dry"
    maker = specification.torque_reused if reused else specification.torque_new
    hints: list[Hint] = []
    if maker is None and reused and specification.torque_new:
        hints.append(Hint("no-reused", say("no figure for a reused one: its maker's or the angle")))
    least = knowledge().bench["fitting"]["turns_by_hand"]
    if given.turns_by_hand is not None and given.turns_by_hand < least:
        text = say(
            "{turns:g} turns by hand, then a tool: under {least:g} it may be crossed",
            turns=given.turns_by_hand,
            least=least,
        )
        hints.append(Hint("crossed", text))
    came = document.cylinder(given.cylinder).plug.seating
    if came in CAME:
        hints.append(Hint(f"came-{came}", say(CAME[came])))
    if threads in LUBRICATED:
        school = thread_school(document)
        hints.append(Hint(school, caution_text(school)))
    if maker is None:
        span = usual(seat, specification.thread_mm or USUAL_THREAD_MM)
        if span and not reused:
            low, high = span
            text = say(
                "no figure given; usual is {low:g} to {high:g} {unit} (memory)",
                low=low.value,
                high=high.value,
                unit=low.unit,
            )
            hints.append(Hint("usual", text))
        return None, tuple(hints)
    try:
        made = setting(
            Quantity.read(maker, Dimension.TORQUE).si,
            wrench_of(document),
            threads=threads,
            cut_percent=document.house_rules.lubricated_cut,
        )
    except OutOfRange as refused:
        return None, (
            *hints,
            Hint("wrench", say("the wrench: {expected}", expected=refused.expected)),
        )
    return made, (*hints, *made.hints)


def thread_school(document: Document) -> str:
    """Which caution the house's school of threads calls for; the default never lubricates."""
    house = document.house_rules.threads
    return "thin-film" if house == "thin-film" else "dry-school"


def caution_text(name: str) -> str:
    """What a caution of the fitting says."""
    cautions = knowledge().bench["fit_caution"]
    return say(next(one["text"] for one in cautions if one["id"] == name))


def _slips(
    given: RefitCylinder,
    window: Window | None,
    made: Setting | None,
    turn: tuple[float, float],
    base: str,
) -> Iterator[Caution]:
    for field in ("arrived_gap", "gap", "gap_passes", "gap_refuses"):
        gap: Figure | None = getattr(given.plug, field)
        if window and gap:
            yield from gap_slip(gap, window, f"{base}/plug/{field}")
    if given.turn_deg is not None:
        yield from turn_slip(given.turn_deg, turn, f"{base}/turn_deg")
    if made and given.torque:
        # Compared on the scale: what was set, with the adaptor that sits between.
        wanted = Quantity(made.shown.value, made.shown.unit, Dimension.TORQUE).si
        yield from torque_slip(given.torque, wanted, f"{base}/torque")


def aim_mm(document: Document) -> float | None:
    """The gap aimed at: the middle of the range unless the house aims elsewhere. [mm]"""
    window = window_of(document)
    if window is None:
        return None
    return window.aim_mm(document.house_rules.gap_aim or "middle")


def aim_shown(document: Document) -> Figure | None:
    """The gap aimed at, in the specification's unit."""
    aim = aim_mm(document)
    given = document.engine.specification.gap_min or document.engine.specification.gap_max
    if aim is None or given is None:
        return None
    value = from_si(aim / 1e3, given.unit, Dimension.LENGTH).value
    return Figure(float(f"{value:.4g}"), given.unit)
