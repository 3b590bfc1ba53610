"""Each cylinder of a refit: its new plug, its gap, its torque, and what is still missing."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from core.caution import Caution
from core.errors import OutOfRange
from core.knowledge import knowledge
from core.plugs.blades import MM_PER_UNIT, exact_mm
from core.plugs.gap import Window
from core.plugs.torque import LUBRICATED, Hint, Setting, Wrench, setting, turn_deg, usual
from core.quantities import Dimension, Quantity, from_si, length_mm
from core.refit.arrival import LOOKED_AT, Remark, remarks
from core.refit.slips import gap_slip, torque_slip

FINE_WIRE = ("platinum", "iridium")


def window_of(document: Mapping[str, Any]) -> Window | None:
    """The gaps that the specification allows; one figure is both ends."""
    specification = document["engine"].get("specification", {})
    low = specification.get("gap_min") or specification.get("gap_max")
    high = specification.get("gap_max") or low
    if not low or length_mm(low) > length_mm(high):
        return None
    return Window(length_mm(low), length_mm(high))


def wrench_of(document: Mapping[str, Any]) -> Wrench:
    """The wrench of the record; where none is named, one that reads in the specification's unit."""
    given = document.get("refit", {}).get("wrench", {})
    specification = document["engine"].get("specification", {})
    maker = specification.get("torque_new") or specification.get("torque_reused")
    offset, length = given.get("offset"), given.get("length")
    return Wrench(
        given.get("unit", maker["unit"] if maker else "N.m"),
        step=given.get("step"),
        minimum=given.get("minimum"),
        maximum=given.get("maximum"),
        offset_m=length_mm(offset) / 1e3 if offset else 0.0,
        length_m=length_mm(length) / 1e3 if length else None,
        joint=given.get("joint", False),
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

    @property
    def stage(self) -> str:
        """How far this plug is on its way; what is wrong goes before how far it got."""
        if any(one.refuse for one in self.remarks):
            return "do-not-fit"
        if self.cautions:
            return "check-a-figure"
        if self.gap == "out":
            return "gap-out"
        if self.fitted:
            return "torqued" if self.torqued else "hand-tight"
        if self.gap == "in":
            return "gap-in"
        if not self.begun:
            return "to-look-at"
        return "half-looked-at" if self.unseen else "looked-at"


def fittings(document: Mapping[str, Any]) -> list[Fitting]:
    """Every cylinder of the engine, in order, whether anything is recorded of it or not."""
    given = {one["cylinder"]: one for one in document.get("refit", {}).get("cylinders", [])}
    old = {one["number"]: one.get("plug", {}) for one in document.get("cylinders", [])}
    return [
        _fitting(number, given.get(number, {}), old.get(number, {}), document)
        for number in range(1, document["engine"]["cylinders"] + 1)
    ]


def _fitting(
    number: int, given: Mapping[str, Any], old: Mapping[str, Any], document: Mapping[str, Any]
) -> Fitting:
    specification = document["engine"].get("specification", {})
    window, plug = window_of(document), given.get("plug", {})
    verdict, text, gap_mm = _gap(plug, window)
    aim = aim_mm(document)
    change = None
    if gap_mm is not None and aim is not None:
        near = knowledge().bench["gap"]["near_mm"]
        change = aim - gap_mm if abs(aim - gap_mm) > near or verdict == "out" else 0.0
    seat = plug.get("seat") or specification.get("seat", "gasket")
    reused = given.get("reused", False)
    made, hints = _setting(given, seat, document)
    base = f"/refit/cylinders/{number}"
    return Fitting(
        cylinder=number,
        remarks=tuple(remarks(plug, old, specification, window)) if not reused else (),
        unseen=()
        if reused or not plug
        else tuple(name for field, name in LOOKED_AT.items() if field not in plug),
        gap=verdict,
        gap_text=text,
        change_mm=change,
        setting=made,
        turn_deg=turn_deg(seat, reused=reused),
        hints=hints,
        cautions=tuple(_slips(plug, given, window, made, base)),
        fitted=given.get("fitted", False),
        torqued=given.get("torqued", False),
        begun=bool(plug) or reused,
    )


def _gap(plug: Mapping[str, Any], window: Window | None) -> tuple[str, str, float | None]:
    """What was measured of the gap as it goes in: by blade, by a stack, or by a pair."""
    if stack := plug.get("gap_blades"):
        total = sum((exact_mm(one) for one in stack), Fraction(0))
        text, gap_mm = _stacked(stack, total), float(total)
    elif "gap" in plug:
        gap_mm, text = length_mm(plug["gap"]), f"{plug['gap']['value']:g} {plug['gap']['unit']}"
    elif "gap_passes" in plug or "gap_refuses" in plug:
        return _pair(plug, window)
    else:
        return "unmeasured", "not measured as it goes in", None
    if window is None:
        return "cannot-say", f"{text}; no gap is specified", gap_mm
    return ("in" if window.holds(gap_mm) else "out"), text, gap_mm


def _stacked(stack: list[Mapping[str, Any]], total_mm: Fraction) -> str:
    """A stack and what it adds up to; the unit once where the blades share it."""
    unit = stack[0]["unit"]
    alike = all(one["unit"] == unit for one in stack)
    said = [f"{one['value']:g}" if alike else f"{one['value']:g} {one['unit']}" for one in stack]
    return f"{' + '.join(said)} = {float(total_mm / MM_PER_UNIT[unit]):g} {unit}"


def _pair(plug: Mapping[str, Any], window: Window | None) -> tuple[str, str, float | None]:
    passes, refuses = (
        length_mm(plug[name]) if name in plug else None for name in ("gap_passes", "gap_refuses")
    )
    said = [
        f"{plug[name]['value']:g} {plug[name]['unit']} {word}"
        for name, word in (("gap_passes", "passes"), ("gap_refuses", "does not"))
        if name in plug
    ]
    text = ", ".join(said)
    if window is None:
        return "cannot-say", f"{text}; no gap is specified", None
    try:
        return window.verdict(passes, refuses), text, None
    except OutOfRange:
        return "cannot-say", f"{text}: that cannot be, one of them is mistaken", None


def _setting(
    given: Mapping[str, Any], seat: str, document: Mapping[str, Any]
) -> tuple[Setting | None, tuple[Hint, ...]]:
    """What to set the wrench to for one plug, and what to mind beyond the setting itself."""
    specification = document["engine"].get("specification", {})
    house = document.get("house_rules", {})
    reused, threads = given.get("reused", False), given.get("threads", "dry")
    maker = specification.get("torque_reused" if reused else "torque_new")
    hints: list[Hint] = []
    if maker is None and reused and "torque_new" in specification:
        hints.append(Hint("no-reused", "no figure for a reused one: its maker's or the angle"))
    least = knowledge().bench["fitting"]["turns_by_hand"]
    if given.get("turns_by_hand", least) < least:
        text = (
            f"{given['turns_by_hand']} turns by hand, then a tool: under {least} it may be crossed"
        )
        hints.append(Hint("crossed", text))
    if threads in LUBRICATED:
        school = thread_school(document)
        hints.append(Hint(school, caution_text(school)))
    if maker is None:
        span = usual(seat, specification.get("thread_mm", 14))
        if span and not reused:
            low, high = span
            text = f"no figure given; usual is {low.value:g} to {high.value:g} {low.unit} (memory)"
            hints.append(Hint("usual", text))
        return None, tuple(hints)
    try:
        made = setting(
            Quantity.read(maker, Dimension.TORQUE).si,
            wrench_of(document),
            threads=threads,
            cut_percent=house.get("lubricated_cut"),
        )
    except OutOfRange as refused:
        return None, (*hints, Hint("wrench", f"the wrench: {refused.expected}"))
    return made, (*hints, *made.hints)


def thread_school(document: Mapping[str, Any]) -> str:
    """Which caution the house's school of threads calls for; the default never lubricates."""
    house = document.get("house_rules", {}).get("threads")
    return "thin-film" if house == "thin-film" else "dry-school"


def caution_text(name: str) -> str:
    """What a caution of the fitting says."""
    text: str = next(one["text"] for one in knowledge().bench["fit_caution"] if one["id"] == name)
    return text


def _slips(
    plug: Mapping[str, Any],
    given: Mapping[str, Any],
    window: Window | None,
    made: Setting | None,
    base: str,
) -> Iterator[Caution]:
    for field in ("arrived_gap", "gap", "gap_passes", "gap_refuses"):
        if window and field in plug:
            yield from gap_slip(plug[field], window, f"{base}/plug/{field}")
    if made and "torque" in given:
        # Compared on the scale: what was set, with the adaptor that sits between.
        wanted = Quantity(made.shown.value, made.shown.unit, Dimension.TORQUE).si
        yield from torque_slip(given["torque"], wanted, f"{base}/torque")


def aim_mm(document: Mapping[str, Any]) -> float | None:
    """The gap aimed at: the middle of the range unless the house aims elsewhere. [mm]"""
    window = window_of(document)
    if window is None:
        return None
    return window.aim_mm(document.get("house_rules", {}).get("gap_aim", "middle"))


def aim_shown(document: Mapping[str, Any]) -> dict[str, Any] | None:
    """The gap aimed at, in the specification's unit."""
    aim = aim_mm(document)
    if aim is None:
        return None
    specification = document["engine"]["specification"]
    unit = (specification.get("gap_min") or specification["gap_max"])["unit"]
    value = from_si(aim / 1e3, unit, Dimension.LENGTH).value
    return {"value": float(f"{value:.4g}"), "unit": unit}
