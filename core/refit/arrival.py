"""What a new plug shows before it goes in, against the old one and the specification."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from core.document.records import NewPlug, Plug, Specification
from core.knowledge import knowledge
from core.plugs.gap import Window
from core.quantities import length_mm

LOOKED_AT = {
    "ground_electrode": "ground electrode",
    "ceramic": "ceramic",
    "markings": "markings",
    "arrived_gap": "gap as arrived",
}
WORDS = {
    ("ground_electrode", "bent"): "ground electrode bent: it was dropped, or set by its maker?",
    ("ground_electrode", "peened"): "ground electrode peened: something struck it, send it back",
    ("ceramic", "cracked"): "ceramic cracked: a hairline shorts to ground, even on a new plug",
    ("ceramic", "loose"): "ceramic loose in the shell: it leaks and overheats",
    ("markings", "missing"): "markings that should be there are missing: a counterfeit?",
    ("markings", "doubtful"): "markings are doubtful: a counterfeit? Compare with one of the trade",
}
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
            yield Remark(field, WORDS[said], said in REFUSING)
    yield from _shape(new, old, specification)
    part, wanted = new.part, specification.plug_part
    if part and wanted and _plain(part) != _plain(wanted):
        yield Remark("part", f"{part}; the specification says {wanted}")
    elif part and not wanted and old.part and _plain(part) != _plain(old.part):
        yield Remark("part", f"{part}; the old one is {old.part}, which may have been wrong too")
    if window and new.arrived_gap and not window.holds(length_mm(new.arrived_gap)):
        text = f"arrived at {new.arrived_gap}, outside {_allowed(specification)}: set it first"
        yield Remark("arrived-gap", text)


def _shape(new: NewPlug, old: Plug, specification: Specification) -> Iterator[Remark]:
    """Seat, thread and reach: a plug that differs in one of them does not go in."""
    for field, name in (("seat", "seat"), ("thread_mm", "thread")):
        for other, whose in ((specification, "the specification"), (old, "the old plug")):
            own, wanted = getattr(new, field), getattr(other, field)
            if own is not None and wanted is not None and own != wanted:
                yield Remark(
                    field, f"{name} {_said(own)}; {whose} has {_said(wanted)}", refuse=True
                )
                break
    within = knowledge().bench["arrival"]["reach_within_mm"]
    for field, name in (("reach", "reach"), ("thread_length", "thread length")):
        for other, whose in ((specification, "specified"), (old, "on the old plug")):
            own, wanted = getattr(new, field), getattr(other, field)
            if own is None or wanted is None:
                continue
            more = length_mm(own) - length_mm(wanted)
            if abs(more) > within:
                risk = (
                    "it may meet the piston, and its bare thread gathers carbon"
                    if more > 0
                    else "it fires from a hole, and carbon fills the thread below it"
                )
                side = "longer" if more > 0 else "shorter"
                yield Remark(
                    field, f"{name} {abs(more):.2g} mm {side} than {whose}: {risk}", refuse=True
                )
                break


def _allowed(specification: Specification) -> str:
    """The range that is specified; one figure where both ends are the same."""
    low, high = specification.gap_min, specification.gap_max
    if low is None or high is None or low == high:
        return f"the {low or high} that is wanted"
    same = low.unit == high.unit
    return f"{low.value:g} to {high}" if same else f"{low} to {high}"


def _said(value: float | str) -> str:
    return value if isinstance(value, str) else f"{value:g}"


def _plain(part: str) -> str:
    return "".join(part.split()).casefold()
