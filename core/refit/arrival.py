"""What a new plug shows before it goes in, against the old one and the specification."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from core.document.records import NewPlug, Plug, Specification
from core.knowledge import knowledge
from core.language import later, number_said, say, word_said
from core.plugs.gap import Window
from core.quantities import length_mm

LOOKED_AT = {
    "ground_electrode": later("ground electrode"),
    "ceramic": later("ceramic"),
    "markings": later("markings"),
    "arrived_gap": later("gap as arrived"),
}
WORDS = {
    ("ground_electrode", "bent"): later(
        "ground electrode bent: it was dropped, or set by its maker?"
    ),
    ("ground_electrode", "peened"): later(
        "ground electrode peened: something struck it, send it back"
    ),
    ("ceramic", "cracked"): later(
        "ceramic cracked: a hairline shorts to ground, even on a new plug"
    ),
    ("ceramic", "loose"): later("ceramic loose in the shell: it leaks and overheats"),
    ("markings", "missing"): later("markings that should be there are missing: a counterfeit?"),
    ("markings", "doubtful"): later(
        "markings are doubtful: a counterfeit? Compare with one of the trade"
    ),
}
LONGER = (
    later("{name} {more:.2g} mm longer than {whose}: {risk}"),
    later("it may meet the piston, and its bare thread gathers carbon"),
)
SHORTER = (
    later("{name} {more:.2g} mm shorter than {whose}: {risk}"),
    later("it fires from a hole, and carbon fills the thread below it"),
)
REFUSING = {("ceramic", "cracked"), ("ceramic", "loose"), ("ground_electrode", "peened")}


@dataclass(frozen=True)
class Remark:
    """Something about a new plug; `refuse` where it should not go in."""

    code: str
    text: str
    refuse: bool = False


def remarks(
    new: NewPlug,
    old: Plug,
    specification: Specification,
    window: Window | None,
) -> Iterator[Remark]:
    """What to say of a new plug.

    Parameters
    ----------
    new, old : NewPlug, Plug
        The plug that goes in and the one that came out, as recorded.
    specification : Specification
        The engine's.
    window : Window or None
        The gaps that the maker allows.
    """
    for field in ("ground_electrode", "ceramic", "markings"):
        said = (field, getattr(new, field))
        if said in WORDS:
            yield Remark(field, say(WORDS[said]), said in REFUSING)
    yield from _shape(new, old, specification)
    part, wanted = new.part, specification.plug_part
    if part and wanted and _plain(part) != _plain(wanted):
        yield Remark(
            "part", say("{part}; the specification says {wanted}", part=part, wanted=wanted)
        )
    elif part and not wanted and old.part and _plain(part) != _plain(old.part):
        yield Remark(
            "part",
            say(
                "{part}; the old one is {old}, which may have been wrong too",
                part=part,
                old=old.part,
            ),
        )
    if window and new.arrived_gap and not window.holds(length_mm(new.arrived_gap)):
        text = say(
            "arrived at {arrived_gap}, outside {allowed}: set it first",
            arrived_gap=new.arrived_gap,
            allowed=_allowed(specification),
        )
        yield Remark("arrived-gap", text)


def _shape(new: NewPlug, old: Plug, specification: Specification) -> Iterator[Remark]:
    """Seat, thread and reach: a plug that differs in one of them does not go in."""
    for field, name in (("seat", say("seat")), ("thread_mm", say("thread"))):
        for other, whose in ((specification, say("the specification")), (old, say("the old plug"))):
            own, wanted = getattr(new, field), getattr(other, field)
            if own is not None and wanted is not None and own != wanted:
                yield Remark(
                    field,
                    say(
                        "{name} {own}; {whose} has {wanted}",
                        name=name,
                        own=_said(own),
                        whose=whose,
                        wanted=_said(wanted),
                    ),
                    refuse=True,
                )
                break
    within = knowledge().bench["arrival"]["reach_within_mm"]
    for field, name in (("reach", say("reach")), ("thread_length", say("thread length"))):
        for other, whose in ((specification, say("specified")), (old, say("on the old plug"))):
            own, wanted = getattr(new, field), getattr(other, field)
            if own is None or wanted is None:
                continue
            more = length_mm(own) - length_mm(wanted)
            if abs(more) > within:
                text, risk = LONGER if more > 0 else SHORTER
                parts = {"name": name, "more": abs(more), "whose": whose, "risk": say(risk)}
                yield Remark(field, say(text, **parts), refuse=True)
                break


def _allowed(specification: Specification) -> str:
    """The range that is specified; one figure where both ends are the same."""
    low, high = specification.gap_min, specification.gap_max
    if low is None or high is None or low == high:
        return say("the {figure} that is wanted", figure=low or high)
    same = low.unit == high.unit
    least = number_said(f"{low.value:g}") if same else str(low)
    return say("{least} to {most}", least=least, most=high)


def _said(value: float | str) -> str:
    return word_said(value) if isinstance(value, str) else number_said(f"{value:g}")


def _plain(part: str) -> str:
    return "".join(part.split()).casefold()
