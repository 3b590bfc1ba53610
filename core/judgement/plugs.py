"""What becomes of a plug: its own look decides, then its age, then the house's policy.

The fault that made it so is another matter and stays open; a spoilt plug is never kept, whatever
explains it.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from core.document.records import Document, Plug
from core.evidence.beforehand import plug_age
from core.inference.model import Model
from core.inference.posterior import Posterior
from core.knowledge import knowledge
from core.knowledge.case import case_tables
from core.knowledge.plug_words import plug_words
from core.language import say
from core.vocabulary import PlugAction

UNTOLD = {"seating", "distance", "part", "seat", "thread_mm", "thread_length", "reach", "cleaned"}
OFF = ("narrow", "wide")
WANTS = ("clean", "regap", "replace")


@dataclass(frozen=True)
class Disposition:
    """What becomes of one plug, and why.

    Attributes
    ----------
    look : str
        The worst that its own look is, by the names of the table.
    worn, overdue, unknown_age : bool
        Why it is old, if it is.
    gap : str
        How its gap stands: narrow, within, over, wide; empty where it was not read.
    """

    action: PlugAction
    reason: str
    look: str = "sound"
    worn: bool = False
    overdue: bool = False
    unknown_age: bool = False
    gap: str = ""

    @property
    def wants(self) -> bool:
        """Whether anything is to be done with it."""
        return self.action in WANTS

    @property
    def by_its_look(self) -> bool:
        """Whether its own look asks for it, not its age or the house's policy."""
        off = self.action == "regap"
        return self.wants and (self.look != "sound" or self.worn or off)


def dispositions(model: Model, posterior: Posterior) -> Mapping[int, Disposition]:
    """What becomes of every plug of an engine."""
    document = model.document
    bands = {one.cylinder: one.value for one in model.findings if one.channel == "gap_ratio"}
    return {
        number: _of_cylinder(document, number, posterior.marginal(number), bands.get(number))
        for number in model.arranged.cylinders
    }


def _of_cylinder(
    document: Document, number: int, chances: Mapping[str, float], band: str | None
) -> Disposition:
    age, plug = plug_age(document, number), document.cylinder(number).plug
    return disposition(
        plug,
        chances,
        band,
        overdue=age is not None and age > 1,
        unknown_age=age is None and document.inspection.history == "unknown",
        policy=document.house_rules.plugs or "replace-when-due",
    )


def disposition(
    plug: Plug,
    faults: Mapping[str, float],
    gap_band: str | None,
    *,
    overdue: bool,
    unknown_age: bool,
    policy: str,
) -> Disposition:
    """What to do with a plug, and why.

    Parameters
    ----------
    plug : Plug
        What was recorded of it.
    faults : mapping of fault to chance
        Of its cylinder.
    gap_band : str or None
        How its gap stands: narrow, within, over, wide; None where it was not read.
    overdue : bool
        Whether it is at or past its interval.
    unknown_age : bool
        Whether nobody knows how old it is: then renewing is the usual answer.
    policy : str
        The house's: `replace-when-due`, `by-condition` or `replace-when-out`.
    """
    seen = dict(plug.items()).keys() - UNTOLD
    gap = gap_band or ""
    if not seen and plug.seating != "loose":
        return Disposition("not-seen", say("nobody read it"), overdue=overdue, gap=gap)
    known = knowledge()
    least = case_tables().ladder.stands
    by_its_gap_alone = gap_band in OFF and not electrodes_worn(plug)
    worn = electrodes_rounded(plug) or (likely(faults, "replace", least) and not by_its_gap_alone)
    late = (overdue or unknown_age) and policy != "by-condition"
    why = _why_renewed(worn=worn, overdue=overdue, unknown_age=unknown_age)
    old = worn or late or policy == "replace-when-out"
    look = look_of(plug, gap_band)
    entry = next(one for one in known.judgement["plug"] if one["look"] == look)
    action: PlugAction = entry["old" if old else "young"]
    reason = say(str(entry["reason"]))
    if look == "sound" and not old:
        if gap_band in (*OFF, "over"):
            action, reason = "regap", say("sound, its gap is off: set it")
        elif likely(faults, "clean", least):
            action, reason = "clean", say("probably fouled: clean it, and read it again")
    if old and entry["young"] != "replace":
        reason = (
            say("{why}: renew it", why=why)
            if look == "sound"
            else say("{reason}; {why}: renew it", reason=reason, why=why)
        )
    return Disposition(action, reason, look, worn, overdue and late, unknown_age and late, gap)


def _why_renewed(*, worn: bool, overdue: bool, unknown_age: bool) -> str:
    if worn:
        return say("worn")
    if overdue:
        return say("past its interval")
    if unknown_age:
        return say("of an age that nobody knows")
    return say("by the house's policy every plug that is out is renewed")


def electrodes_rounded(plug: Plug) -> bool:
    """Whether its electrodes were seen to be worn: a gap that is off alone can be set."""
    return "rounded" in (plug.centre_electrode, plug.ground_electrode)


def electrodes_worn(plug: Plug) -> bool:
    """Whether anything was seen of wear on its electrodes."""
    eaten = plug.centre_electrode == "eroded" or plug.ground_electrode == "thinned"
    return electrodes_rounded(plug) or eaten


def likely(faults: Mapping[str, float], remedy: str, least: float) -> bool:
    """Whether a fault that wants this remedy is at least so likely."""
    wanted = knowledge().cylinder_faults(lambda fault: fault.remedy == remedy)
    return max(faults[name] for name in wanted) >= least


def look_of(plug: Plug, gap_band: str | None) -> str:
    """The worst that a plug's own look is, by the names of the table."""
    spoilt = set(_spoilt(plug))
    wet, black = plug.wetness in ("wet", "damp"), plug.deposit_colour == "black"
    looks = (
        *((look, look in spoilt) for look in ("strap-missing", "burnt", "coolant", "cracked")),
        *((look, look in spoilt) for look in ("thread-damaged", "water", "crusted", "thinned")),
        ("bridged", plug.gap_bridged),
        ("strap-bent", "strap-bent" in spoilt or plug.gap_closed),
        ("gap-off", gap_band in OFF),
        ("oil-wet", wet and plug.wet_with in ("oil", "premix")),
        ("fuel-wet", wet),
        ("dusted", black and plug.deposit_amount == "light"),
        ("sooty", black),
        ("came-loose", plug.seating == "loose"),
    )
    return next((look for look, fits in looks if fits), "sound")


def _spoilt(plug: Plug) -> Iterator[str]:
    """What the words said of a plug make of it."""
    for field, words in plug_words().items():
        said = getattr(plug, field)
        for word in (said,) if isinstance(said, str) else said or ():
            yield words[word].spoils
