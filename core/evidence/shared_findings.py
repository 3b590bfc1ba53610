"""Found on parts that all cylinders share: cap, rotor, points, condenser, advance, timing."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from core.document.records import Document
from core.hidden.situations import Situations, is_fault
from core.knowledge import SharedFinding, knowledge
from core.language import later, word_said
from core.quantities import length_mm

FIGURES = ("points_gap", "dwell_deg", "timing_deg_btdc", "points_distance")


@dataclass(frozen=True)
class OnAll:
    """One finding on a shared part, as its table knows it."""

    field: str
    value: str

    @property
    def path(self) -> str:
        return f"/distributor/{self.field}"

    @property
    def text(self) -> str:
        plain = self.field.removesuffix("_deg_btdc").removesuffix("_deg")
        return f"{word_said(plain)}: {word_said(self.value)}"

    @property
    def table(self) -> SharedFinding | None:
        """What weighs it; None where nothing does."""
        found = knowledge().shared.get(f"distributor/{self.field}")
        return found if found is not None and self.value in found.values else None


def found_on_all(document: Document) -> list[OnAll]:
    """Every finding on a shared part that a table weighs."""
    found = [*_words(document), *_figures(document)]
    return [one for one in found if one.table is not None]


def with_found(situations: Situations, found: Sequence[OnAll]) -> Situations:
    """The situations with what was found on shared parts weighed."""
    log_weight = situations.log_prior.copy()
    for one in found:
        if one.table is not None:
            present, absent = one.table.values[one.value]
            held = situations.which(is_fault(one.table.fault, ("engine",)))
            log_weight += np.log(np.where(held, present, absent))
    return replace(situations, log_prior=log_weight - np.logaddexp.reduce(log_weight))


def _words(document: Document) -> Iterator[OnAll]:
    for field, value in document.distributor.items():
        if field not in FIGURES:
            word = ("yes" if value else "no") if isinstance(value, bool) else str(value)
            yield OnAll(field, word)


def _figures(document: Document) -> Iterator[OnAll]:
    """Gap, dwell and timing beside the specification, or else beside what the trade sets."""
    given, read = document.engine.specification, document.distributor
    far, usual = knowledge().far, knowledge().usual
    gaps = [length_mm(end) for end in (given.points_gap_min, given.points_gap_max) if end]
    if read.points_gap:
        ends, gap = gaps or usual["points_gap_mm"], length_mm(read.points_gap)
        low, high = min(ends) * (1 - far["points_share"]), max(ends) * (1 + far["points_share"])
        yield OnAll("points_gap", "small" if gap < low else "large" if gap > high else "within")
    dwells = [end for end in (given.dwell_min_deg, given.dwell_max_deg) if end is not None]
    if read.dwell_deg is not None:
        pitch = 360 / document.engine.cylinders
        ends = dwells or [share * pitch for share in usual["dwell_share"]]
        low, high = min(ends) - far["dwell_deg"], max(ends) + far["dwell_deg"]
        dwell = read.dwell_deg
        word = later("short") if dwell < low else later("long") if dwell > high else "within"
        yield OnAll("dwell_deg", word)
    if read.timing_deg_btdc is not None:
        set_at = given.timing_deg_btdc
        ends = usual["timing_deg"] if set_at is None else [set_at, set_at]
        low, high = min(ends) - far["timing_deg"], max(ends) + far["timing_deg"]
        timing = read.timing_deg_btdc
        if set_at is None and low <= timing <= high:
            return  # Where this one is set nobody told: within the usual says nothing.
        yield OnAll(
            "timing_deg_btdc", "late" if timing < low else "early" if timing > high else "set"
        )
