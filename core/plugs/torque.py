"""From a maker's torque to what the wrench at hand is set to, and what may go wrong on the way."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from core.errors import OutOfRange
from core.knowledge import knowledge
from core.knowledge.limits import limits
from core.language import say, word_said
from core.quantities import Dimension, Quantity, from_si, percent

LUBRICATED = ("anti-seize", "oil", "old-lubricant")
PLAUSIBLE_NM = limits().slip.plausible_nm  # No spark plug is tightened beyond.


@dataclass(frozen=True)
class Hint:
    """Something to mind, with a stable code."""

    code: str
    text: str


@dataclass(frozen=True)
class Wrench:
    """A torque wrench as it lies at hand.

    Attributes
    ----------
    unit : str
        That of its scale.
    step, minimum, maximum : float or None
        Of its scale, in that unit; None where nobody said.
    offset_m : float
        How far an adaptor moves the plug beyond the wrench's head, along the handle; nearer to
        the hand it is negative. A straight extension, or an adaptor set at a right angle, is 0. [m]
    length_m : float or None
        From the head to the middle of the grip. [m]
    joint : bool
        Whether a universal joint sits between.
    """

    unit: str
    step: float | None = None
    minimum: float | None = None
    maximum: float | None = None
    offset_m: float = 0.0
    length_m: float | None = None
    joint: bool = False

    def correction(self) -> float:
        """What the scale has to show for each unit that reaches the plug. [-]

        The hand's force acts over a longer lever than the scale was made for: L / (L + offset).
        """
        if not self.offset_m:
            return 1.0
        if self.length_m is None:
            raise OutOfRange(
                "wrench_length", None, say("the wrench's length, for an offset adaptor")
            )
        if self.length_m + self.offset_m <= 0:
            raise OutOfRange("adaptor_offset", self.offset_m, say("shorter than the wrench"))
        return self.length_m / (self.length_m + self.offset_m)


@dataclass(frozen=True)
class Setting:
    """What to set, and what to mind. `wanted_nm` is what should reach the plug. [N m]"""

    shown: Quantity
    wanted_nm: float
    hints: tuple[Hint, ...]


def setting(
    maker_nm: float, wrench: Wrench, *, threads: str = "dry", cut_percent: float | None = None
) -> Setting:
    """What the wrench is set to.

    Parameters
    ----------
    maker_nm : float
        The maker's figure for this seat, new or reused, on dry threads. [N m]
    wrench : Wrench
        Its scale and what is put on it.
    threads : str
        A word of `THREAD_STATE`. Lubricated ones have the figure cut, else the pull on the
        thread grows at the same torque.
    cut_percent : float, optional
        By how much it is cut; the table's own where the house has none, 0 for full torque. [%]

    Returns
    -------
    Setting

    Raises
    ------
    OutOfRange
        If the figure is not above zero, or an offset adaptor has no wrench length.
    """
    if maker_nm <= 0:
        raise OutOfRange("maker", maker_nm, say("more than zero"))
    known = knowledge().bench["torque"]
    lubricated = threads in LUBRICATED
    cut = known["lubricated"]["cut_percent"] if cut_percent is None else cut_percent
    wanted = maker_nm * (1 - cut / 100) if lubricated else maker_nm
    scale = from_si(wanted * wrench.correction(), wrench.unit, Dimension.TORQUE).value
    value = round(scale / wrench.step) * wrench.step if wrench.step else float(f"{scale:.3g}")
    if wrench.step and value == 0:
        value = wrench.step
    shown = Quantity(float(f"{value:.6g}"), wrench.unit, Dimension.TORQUE)
    hints = (
        *_plausible(maker_nm),
        *(_lubricant(threads, cut) if lubricated else ()),
        *_of_wrench(wrench, scale, shown.value),
    )
    return Setting(shown, wanted, hints)


def _plausible(maker_nm: float) -> Iterator[Hint]:
    low, high = PLAUSIBLE_NM
    if maker_nm > high:
        yield Hint(
            "unit-slip",
            say("{torque:.3g} N.m would strip a plug's thread: check the unit", torque=maker_nm),
        )
    elif maker_nm < low:
        yield Hint(
            "unit-slip",
            say(
                "{torque:.3g} N.m would not hold a plug: check the unit, inch-pounds are not "
                "foot-pounds",
                torque=maker_nm,
            ),
        )


def _lubricant(threads: str, cut: float) -> Iterator[Hint]:
    named = word_said(threads)
    if cut:
        yield Hint(
            "lubricated",
            say("{named} on the threads: the dry figure is cut by {cut:g} %", named=named, cut=cut),
        )
    else:
        yield Hint(
            "full-torque-lubricated",
            say(
                "{named} on the threads and the full figure: it pulls the thread harder than "
                "its maker meant",
                named=named,
            ),
        )


def _of_wrench(wrench: Wrench, scale: float, value: float) -> Iterator[Hint]:
    known, unit = knowledge().bench["torque"]["wrench"], wrench.unit
    if wrench.joint:
        yield Hint(
            "joint", say("a joint spoils the torque: use a straight extension, or the angle")
        )
    if wrench.offset_m:
        yield Hint(
            "offset",
            say(
                "corrected by {factor:.3g} for the offset of the adaptor",
                factor=wrench.correction(),
            ),
        )
    if wrench.minimum is not None and value < wrench.minimum:
        yield Hint(
            "below-scale",
            say(
                "under the scale, which begins at {minimum:g} {unit}",
                minimum=wrench.minimum,
                unit=unit,
            ),
        )
    if wrench.maximum is not None:
        if value > wrench.maximum:
            yield Hint(
                "above-scale",
                say(
                    "beyond the scale, which ends at {maximum:g} {unit}",
                    maximum=wrench.maximum,
                    unit=unit,
                ),
            )
        elif value < known["bottom"] * wrench.maximum:
            yield Hint(
                "bottom-fifth",
                say(
                    "in the bottom fifth of a scale to {maximum:g} {unit}, where it is not to "
                    "be trusted: take a smaller wrench",
                    maximum=wrench.maximum,
                    unit=unit,
                ),
            )
    if abs(value / scale - 1) > known["coarse"]:
        moved = percent(value / scale - 1, "+")
        yield Hint(
            "coarse-scale",
            say("the scale's step moves the figure by {moved}: take a finer wrench", moved=moved),
        )


def turn_deg(seat: str, *, reused: bool) -> tuple[float, float]:
    """How far to turn from finger-tight where no wrench fits. [deg]"""
    turns = knowledge().bench["torque"]["turn"]
    which = "taper" if seat == "taper" else "gasket-reused" if reused else "gasket-new"
    return turns[which]["low"], turns[which]["high"]


def usual(seat: str, thread_mm: float) -> tuple[Quantity, Quantity] | None:
    """The usual range for a plug in aluminium where its maker's figure is not at hand."""
    for row in knowledge().bench["torque"]["usual"]:
        if row["seat"] == seat and row["thread_mm"] == thread_mm:
            low, high = (Quantity(row[end], "lbf.ft", Dimension.TORQUE) for end in ("low", "high"))
            return low, high
    return None
