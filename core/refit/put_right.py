"""What was put right, read from the refit: which part, how, on which cylinders."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import dataclass

from core.document.records import Document, NewPlug, RefitCylinder
from core.knowledge import knowledge
from core.language import listed, say, word_said

RENEWED, SET, CLEANED, TORQUED = "renewed", "set", "cleaned", "repaired"


# Parts of which each cylinder has one of its own.
ONE_EACH = ("plug", "coil", "lead", "boot", "well-seal", "injector", "intake-valve",
            "exhaust-valve", "piston")  # fmt: skip


@dataclass(frozen=True)
class PutRight:
    """One part that was renewed, set, cleaned or repaired; no cylinders: what all share."""

    part: str
    action: str
    cylinders: tuple[int, ...]

    @property
    def leaves(self) -> dict[str, float]:
        """Of every fault that this puts right, the share of its chance that stays."""
        rows = [one for one in knowledge().judgement["repair"] if one["part"] == self.part]
        row = next((one for one in rows if one.get("action", self.action) == self.action), None)
        return dict(row["leaves"]) if row else {}

    def reaches(self, cylinder: int) -> bool:
        return not self.cylinders or cylinder in self.cylinders

    def covers(self, cylinders: Collection[int]) -> bool:
        """Whether it was done on all of some cylinders."""
        return not self.cylinders or set(self.cylinders) >= set(cylinders)

    @property
    def where(self) -> str:
        """What was put right: "plugs of 2 and 3"."""
        several = len(self.cylinders) > 1 and self.part in ONE_EACH
        label = word_said(f"{self.part}s" if several else self.part)
        if not self.cylinders:
            return label
        return say("{part} of {cylinders}", part=label, cylinders=listed(self.cylinders))

    @property
    def spoken(self) -> str:
        """As a shop writes it: "plugs of 2 and 3 renewed"."""
        action = "torqued" if (self.part, self.action) == ("plug", TORQUED) else self.action
        return f"{self.where} {word_said(action)}"


def put_right(document: Document) -> list[PutRight]:
    """Everything that was put right, the same part and act together."""
    found: dict[tuple[str, str], list[int] | None] = {}
    for part, action, cylinders in _acts(document):
        own = found.setdefault((part, action), [])
        if not cylinders or own is None:
            found[part, action] = None  # Once said of all, it is all.
        else:
            own.extend(number for number in cylinders if number not in own)
    return [
        PutRight(part, action, tuple(sorted(cylinders or ())))
        for (part, action), cylinders in found.items()
    ]


def _acts(document: Document) -> Iterator[tuple[str, str, tuple[int, ...]]]:
    refit = document.refit
    for repair in refit.repairs:
        if repair.part is not None:
            yield repair.part, repair.action or RENEWED, repair.cylinders
    for one in refit.cylinders:
        for action in _of_plug(one, document):
            yield "plug", action, (one.cylinder,)
    if refit.points.renewed or refit.points.gap or refit.points.dwell_deg is not None:
        yield "points", RENEWED if refit.points.renewed else SET, ()
    if refit.points.timing_deg_btdc is not None:
        yield "timing", SET, ()
    if refit.premix.ratio is not None:
        yield "premix", RENEWED, ()


def _of_plug(one: RefitCylinder, document: Document) -> Iterator[str]:
    """What fitting a plug did: a new one, or the old one back, set, cleaned and torqued."""
    if not (one.fitted or one.torqued or one.torque):
        return
    if not one.reused:
        yield RENEWED
        return
    if one.plug.gap or one.plug.gap_passes:
        yield SET
    if document.cylinder(one.cylinder).plug.cleaned not in (None, "not"):
        yield CLEANED
    if one.torqued or one.torque:
        yield TORQUED


def new_plug(document: Document, cylinder: int) -> NewPlug:
    """The plug that went into a cylinder, as far as it was described."""
    own = (one.plug for one in document.refit.cylinders if one.cylinder == cylinder)
    return next(own, NewPlug())
