"""Relative compression as evidence: how a cylinder's rise compares with the others' on one trace.

A current clamp compares and does not measure, so the level of the test does not enter: the figure
over the other cylinders' middle is held against what each leak would leave of a healthy reading.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from statistics import median

import numpy as np

from core.document.records import Document
from core.hidden.handling import Handling
from core.hidden.leaks import Leaks
from core.hidden.states import States, Vector
from core.knowledge import knowledge
from core.language import say
from core.pressure.response import Response
from core.quantities import percent

LEAST_OTHERS = 2


@dataclass(frozen=True)
class Relative:
    """One cylinder's rise over the middle of the others'. [-]"""

    cylinder: int
    ratio: float
    sd: float
    path: str
    spoken: str
    kind = "relative"

    @property
    def told(self) -> str:
        return say("cranking trace: {spoken}", spoken=self.spoken)

    def of_areas(self, leaks: Leaks, response: Response, handling: Handling) -> Vector | None:
        """Density over the leaks, shape (rings * others,)."""
        left = response.share(leaks.ring_areas[:, None] + leaks.other_areas[None, :]).ravel()
        off = (self.ratio - left) / self.sd
        blunder = knowledge().pressure["relative"]["blunder"]
        normal = np.exp(-0.5 * off**2) / (self.sd * np.sqrt(2 * np.pi))
        return np.asarray((1 - blunder) * normal + blunder)

    def of_ear(self, states: States, leaks: Leaks) -> Vector | None:
        return None


def relatives(document: Document) -> Iterator[Relative]:
    """Every relative reading that has others to be compared with."""
    items = document.tests.relative
    shares = {item.cylinder: item.share for item in items if item.share is not None}
    spreads = {item.cylinder: item.spread or 0.0 for item in items}
    scatter = knowledge().pressure["relative"]["scatter"]
    for cylinder, share in shares.items():
        others = [other for at, other in shares.items() if at != cylinder]
        if len(others) < LEAST_OTHERS or median(others) <= 0:
            continue
        ratio = share / median(others)
        sd = float(np.hypot(scatter, spreads[cylinder] / 100))
        spoken = say("its rise is {ratio} of the others'", ratio=percent(ratio))
        yield Relative(cylinder, ratio, sd, f"/tests/relative/{cylinder}/share", spoken)
