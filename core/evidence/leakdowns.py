"""Leak-down readings as evidence: how much a cylinder leaks at rest, and where it is heard.

The reading argues about the same leak areas as the compression does. The restrictor turns it into
an area; one that nobody measured is hidden and the same for all, so that the cylinders are each
other's standard as far as testers differ. What the ear hears argues about the paths.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from core import vocabulary
from core.document.readings import held_of
from core.document.records import Document, Engine, LeakdownReading, LeakdownTest
from core.hidden.handling import Handling
from core.hidden.leaks import BIN_LOG_SD, Leaks
from core.hidden.states import States, Vector
from core.knowledge import knowledge
from core.knowledge.limits import limits
from core.language import listed, say, word_said
from core.pressure.leakdown import leak_area_m2, restrictor_area_m2
from core.pressure.response import REFERENCE_M3, Response, geometry_of
from core.quantities import PSI_PA, length_mm
from core.vocabulary import words_of

LEAST_AREA = limits().leakdown.least_area  # [mm2 for each 500 cm3]
DISAGREE_PERCENT = limits().leakdown.disagree_percent
EXITS = tuple(word for word in words_of(vocabulary.Escape) if word != "none")
CRANKCASE_MURMUR = limits().leakdown.crankcase_murmur


@dataclass(frozen=True)
class Leakdown:
    """What one cylinder held, as a leak area, by the usual restrictor where nobody measured it.

    [mm2 for each 500 cm3]
    """

    cylinder: int
    area: float
    log_sd: float
    measured: bool
    path: str
    spoken: str
    kind = "leak-down"

    @property
    def told(self) -> str:
        return say("leak-down: {spoken}", spoken=self.spoken)

    def of_areas(self, leaks: Leaks, response: Response, handling: Handling) -> Vector | None:
        """Density in the logarithm of its area, of every restrictor where it was not measured."""
        sd = np.hypot(self.log_sd, BIN_LOG_SD)
        area = np.log(self.area) + (0.0 if self.measured else handling.restrictor[:, None])
        off = (area - leaks.log_total) / sd
        blunder = knowledge().pressure["scatter"]["outlier"]
        normal = np.exp(-0.5 * off**2) / (sd * np.sqrt(2 * np.pi))
        return np.asarray((1 - blunder) * normal + blunder * 0.1)

    def of_ear(self, states: States, leaks: Leaks) -> Vector | None:
        return None


@dataclass(frozen=True)
class Escape:
    """Where the air of one cylinder was heard to escape; none of the exits if nothing was."""

    cylinder: int
    exits: frozenset[str]
    path: str
    spoken: str
    kind = "escape"

    @property
    def told(self) -> str:
        return self.spoken

    def of_areas(self, leaks: Leaks, response: Response, handling: Handling) -> Vector | None:
        return None

    def of_ear(self, states: States, leaks: Leaks) -> Vector | None:
        """Chance of what was heard, shape (besides, m)."""
        known = knowledge().pressure["escapes"]
        mechanical = states.mechanical
        chance = np.ones((leaks.besides, len(mechanical.combinations)))
        beside = np.arange(leaks.besides) != leaks.beside[0, 0]
        for exit_ in EXITS:
            own = mechanical.active(_leaving_by(exit_))
            leaking = beside[:, None] if exit_ == "neighbour" else own[None]
            mistaken = CRANKCASE_MURMUR if exit_ == "crankcase" else known["mistaken"]
            heard = np.where(leaking, known["heard_share"], mistaken)
            chance = chance * (heard if exit_ in self.exits else 1 - heard)
        return chance


def disagrees(test: LeakdownTest, reading: LeakdownReading) -> bool:
    """Whether percent and held pressure contradict each other, or more is held than supplied."""
    both = held_of(test, reading)
    if both is None or both[0] <= 0:
        return True
    supply, held = both
    if held > supply * 1.02:
        return True
    percent = reading.percent
    return percent is not None and abs(percent - 100 * (1 - held / supply)) > DISAGREE_PERCENT


def leakdowns(
    document: Document, doubted: frozenset[str] = frozenset()
) -> Iterator[Leakdown | Escape]:
    """Every usable leak-down reading and what was heard with it."""
    for test in document.tests.leakdown:
        base = f"/tests/leakdown/{test.id}/readings"
        usable = []
        for reading in test.readings:
            if reading.escapes:
                heard = frozenset(reading.escapes) - {"none"}
                where = listed([word_said(one) for one in sorted(heard)]) or say("nowhere")
                path = f"{base}/{reading.cylinder}/escapes"
                yield Escape(
                    reading.cylinder, heard, path, say("air heard escaping: {where}", where=where)
                )
            read = held_of(test, reading) is not None and not disagrees(test, reading)
            if read and f"{base}/{reading.cylinder}/held" not in doubted:
                usable.append(reading)
        if usable:
            yield from _readings(test, usable, _swept_m3(document.engine, test), base)


def _readings(
    test: LeakdownTest, items: Sequence[LeakdownReading], swept_m3: float, base: str
) -> Iterator[Leakdown]:
    known = knowledge().pressure["leakdown"]
    supply = (held_of(test, items[0]) or (0.0, 0.0))[0]
    given = test.restrictor
    diameter = length_mm(given) / 1e3 if given else known["restrictor_in"] * 0.0254
    restrictor = restrictor_area_m2(min(diameter, 0.05), known["discharge"])
    scale = 1e6 / (swept_m3 / REFERENCE_M3)
    error = known["reading_psi"] * PSI_PA
    held = np.array([(held_of(test, item) or (0.0, 0.0))[1] for item in items])
    around = np.clip(held + np.array([[0.0], [-error], [error]]), 0.005 * supply, supply)
    areas = np.maximum(leak_area_m2(supply, restrictor, around) * scale, LEAST_AREA)
    read = np.abs(np.log(areas[1] / areas[2])) / 2
    for item, area, spread in zip(
        items, areas[0], np.hypot(known["known_spread"], read), strict=True
    ):
        path = f"{base}/{item.cylinder}/held"
        spoken = (
            say("{held} held", held=item.held)
            if item.held
            else say("{percent:g} % lost", percent=item.percent)
        )
        measured = given is not None
        yield Leakdown(item.cylinder, float(area), float(spread), measured, path, spoken)


def unmeasured(said: Iterable[object]) -> bool:
    """Whether any leak-down went through a restrictor that nobody measured."""
    return any(isinstance(one, Leakdown) and not one.measured for one in said)


def _swept_m3(engine: Engine, test: LeakdownTest) -> float:
    """Size of a cylinder; where nobody gave it, a big restrictor tells of a big one. [m3]"""
    known = knowledge().pressure["leakdown"]
    given = engine.bore is not None and engine.stroke is not None
    big = test.restrictor is not None and length_mm(test.restrictor) >= known["big_restrictor_mm"]
    if big and not given:
        return float(known["big_cylinder_cm3"] * 1e-6)
    return geometry_of(engine)[0].swept_m3


def _leaving_by(exit_: str) -> tuple[str, ...]:
    """Faults whose air is heard at an exit; at the neighbour's hole it is a gasket's."""
    return knowledge().cylinder_faults(lambda fault: fault.exit == exit_)
