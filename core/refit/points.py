"""Breaker points on the way back: gap first, then timing; a later gap undoes the timing."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from core.document.records import Document, PointsRefit
from core.errors import OutOfRange
from core.knowledge import knowledge
from core.language import later, say
from core.quantities import Dimension, Figure, Quantity, from_si, length_mm
from core.tuning.points import FAR, Cam, advance_change_deg, arc_m

SAME = 1e-6  # One figure in two units is one figure.
NOTICED_DEG = 0.5  # A strobe or lamp tells half a degree apart; common practice.

# What of a cam can be asked for in vain, as it is called.
ASKED = {
    "dwell_deg": later("dwell"),
    "gap": later("points gap"),
    "lift": later("lift of the cam"),
    "lobes": later("lobes"),
}


@dataclass(frozen=True)
class PointsState:
    """How far the points are set.

    Attributes
    ----------
    gap_mm, dwell_deg : float or None
        As it was measured, or computed from the other; `computed` names which.
    undone_deg : float or None
        How far the timing moved since it was set; None where it was not set. [crank deg]
    care : tuple of str
        What the distance on the points asks for, or when it will.
    """

    basis: str
    gap_mm: float | None
    dwell_deg: float | None
    computed: str
    within: bool | None
    undone_deg: float | None
    timing_undone: bool
    text: str
    care: tuple[str, ...] = ()


def has_points(document: Document) -> bool:
    """Whether this engine has breaker points."""
    trigger = document.engine.trigger
    seen = document.distributor.points is not None or document.refit.points.recorded
    return trigger == "points" or (trigger is None and seen)


def cam_of(document: Document) -> tuple[Cam, str, float]:
    """The cam through the maker's pair; its basis in words; the pair's gap. [mm]"""
    given = document.engine.specification
    lobes = given.cam_lobes or document.engine.cylinders
    gaps = [length_mm(end) for end in (given.points_gap_min, given.points_gap_max) if end]
    dwells = [end for end in (given.dwell_min_deg, given.dwell_max_deg) if end is not None]
    usual = knowledge().bench["points"]
    gap = sum(gaps) / len(gaps) if gaps else usual["gap_mm"]
    dwell = sum(dwells) / len(dwells) if dwells else usual["dwell_share"] * 360 / lobes
    basis = (
        say("the specified pair") if gaps and dwells else say("a usual cam: no pair is specified")
    )
    return Cam.through(lobes, gap, dwell), basis, gap


def timing_arc(document: Document) -> Figure | None:
    """The specified timing as a length along the rim of its pulley, in the pulley's unit."""
    specification = document.engine.specification
    pulley, timing = specification.pulley_diameter, specification.timing_deg_btdc
    if pulley is None or timing is None:
        return None
    arc = from_si(arc_m(timing, length_mm(pulley) / 1e3), pulley.unit, Dimension.LENGTH)
    return Figure(float(f"{arc.value:.3g}"), arc.unit)


def _care(document: Document) -> Iterator[str]:
    """Rubbing block and distributor by the distance that they have run."""
    run = document.distributor.points_distance
    for care in knowledge().bench["points_care"]:
        if run is None or run.unit == "h":
            yield say(care["text"])
            continue
        left = care["km"] - Quantity.read(run, Dimension.DISTANCE).si
        due = (
            say("That is in {left:,.0f} km.", left=left)
            if left > 0
            else say("That is due since {left:,.0f} km.", left=-left)
        )
        yield f"{say(care['text'])} {due}"


def points_state(document: Document) -> PointsState | None:
    """What is set, what follows from it, and whether the timing still stands."""
    if not has_points(document):
        return None
    given = document.refit.points
    try:
        cam, basis, pair_mm = cam_of(document)
        gap, dwell, computed = _both(cam, given.gap, given.dwell_deg)
        undone = _undone(cam, given, document.engine.cycle)
    except OutOfRange as refused:
        text = say(
            "cannot be worked out: {path} should be {expected}",
            path=say(ASKED.get(refused.path, refused.path)),
            expected=refused.expected,
        )
        return PointsState("", None, None, "", None, None, timing_undone=False, text=text)
    timed = given.timing_deg_btdc is not None
    since = (given.timing_gap, given.timing_dwell_deg)
    before_gap = timed and gap is not None and since == (None, None)
    moved = before_gap or (undone is not None and abs(undone) >= NOTICED_DEG)
    far = gap is not None and not 1 / FAR <= gap / pair_mm <= FAR
    return PointsState(
        basis + (say(", and far from it: take this as a direction") if far else ""),
        gap,
        dwell,
        computed,
        _within(document, gap, dwell),
        undone,
        timing_undone=moved,
        text=_told(gap, undone, timed=timed, moved=moved),
        care=tuple(_care(document)),
    )


def _undone(cam: Cam, given: PointsRefit, cycle: str) -> float | None:
    """How far the spark moved since the timing was set. [crank deg]

    Like is compared with like, dwell with dwell or gap with gap: a meter held to points that were
    set by feeler shows the model's error, no change.
    """
    if given.timing_deg_btdc is None:
        return None
    if given.dwell_deg is not None and given.timing_dwell_deg is not None:
        now, then = given.dwell_deg, given.timing_dwell_deg
    elif given.gap and given.timing_gap:
        now, then = (cam.dwell_deg(length_mm(one)) for one in (given.gap, given.timing_gap))
    else:
        return None
    return round(advance_change_deg(then, now, 1.0 if cycle == "two-stroke" else 2.0), 1)


def _both(
    cam: Cam, gap: Figure | None, dwell: float | None
) -> tuple[float | None, float | None, str]:
    """Gap and dwell, one computed where only the other was measured; the meter goes first."""
    if dwell is not None:
        own = length_mm(gap) if gap else cam.gap_mm(dwell)
        return own, dwell, "" if gap else "gap"
    if gap is not None:
        own = length_mm(gap)
        return own, cam.dwell_deg(own), "dwell"
    return None, None, ""


def _within(document: Document, gap: float | None, dwell: float | None) -> bool | None:
    """Whether what was set lies in the specification, as far as it says anything."""
    given = document.engine.specification
    said = []
    if gap is not None and given.points_gap_min and given.points_gap_max:
        ends = length_mm(given.points_gap_min), length_mm(given.points_gap_max)
        said.append(ends[0] - SAME <= gap <= ends[1] + SAME)
    if dwell is not None and given.dwell_min_deg is not None and given.dwell_max_deg is not None:
        said.append(given.dwell_min_deg - SAME <= dwell <= given.dwell_max_deg + SAME)
    return all(said) if said else None


def _told(gap: float | None, undone: float | None, *, timed: bool, moved: bool) -> str:
    if gap is None:
        return say("Gap first: it moves the timing.")
    if not timed:
        return say("Gap is set; now the timing.")
    if moved and undone is None:
        return say("The timing was set before the gap, which moves it. Set the timing again.")
    if moved and undone is not None:
        side = say("earlier") if undone > 0 else say("later")
        return say(
            "The gap was changed after the timing was set: the spark comes about {undone:.1f} "
            "crank degrees {side}. Set the timing again.",
            undone=abs(undone),
            side=side,
        )
    return say("Gap, then timing: both stand.")
