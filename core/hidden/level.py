"""The level of today's test: what a healthy cylinder of this engine would have shown.

All cylinders share it. Even-but-low readings move the level and convict nobody; one low reading
among high ones cannot. Its prior is wide around the physical expectation, narrow where a
specification says what healthy is, and has room for a test that was run wrong and for valve
timing that slipped.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from core.document.records import Document, Engine, Specification
from core.engine.atmosphere import SEA_LEVEL_PA
from core.hidden.states import Vector
from core.knowledge import knowledge
from core.knowledge.limits import limits
from core.language import say
from core.pressure.response import Response, ambient_pa, response_of
from core.quantities import PSI_PA, pressure_pa

PROPER, TIMING, TEST = range(3)
# Points of the level's grid lie a share of the readings' scatter apart where the readings put it,
# and this far apart elsewhere (natural logarithm).
FINE_SHARE, COARSE_STEP, MOST_FINE = 0.7, 0.11, 24
SHIFT_STEP, SHIFTS_ASIDE = 0.03, 3  # Of a bank's own timing, as natural logarithms.
SMALL = 2  # Cylinders of an engine that is held in the hand or pushed.
ONE_FIGURE_MARGIN = limits().test.one_figure_margin


@dataclass(frozen=True)
class Expectation:
    """The healthy final gauge pressure of this engine on this test, before any reading."""

    pressure_pa: float
    log_sd: float
    basis: str
    response: Response
    specified: bool

    @property
    def low_pa(self) -> float:
        return float(self.pressure_pa * np.exp(-1.645 * self.log_sd))

    @property
    def high_pa(self) -> float:
        return float(self.pressure_pa * np.exp(1.645 * self.log_sd))


@dataclass(frozen=True, eq=False)
class Level:
    """The level as a grid.

    Attributes
    ----------
    log_level : ndarray, shape (levels,)
        Natural logarithm of level over expectation.
    log_prior : ndarray, shape (levels,)
        Normalised log prior weight of each grid point.
    responsibility : ndarray, shape (3, levels)
        Given a level, how probable a proper test, slipped valve timing, a wrong test.
    """

    log_level: Vector
    log_prior: Vector
    responsibility: Vector


@dataclass(frozen=True)
class _Healthy:
    """What healthy is before this test's air and heat: its figure, how sure, from where. [Pa]"""

    pressure_pa: float
    spread: float
    basis: str
    computed: bool = False  # At this altitude already.


def expectation(document: Document) -> Expectation:
    """What healthy cylinders of this engine should show on this test."""
    known = knowledge().pressure
    engine, tests = document.engine, document.tests.compression
    rpm = next((test.cranking_rpm for test in tests if test.cranking_rpm is not None), None)
    surrounding = ambient_pa(document)
    response = response_of(engine, rpm or known["conditions"]["default_rpm"], surrounding)
    healthy = _specified(engine.specification) or _of_its_kind(engine, response)
    thin_air = 1.0 if healthy.computed else surrounding / SEA_LEVEL_PA
    cold = any(test.engine_temperature == "cold" for test in tests)
    shift = float(np.exp(known["conditions"]["cold"])) if cold else 1.0
    told = (
        ("cranking_rpm", rpm is not None),
        ("engine_temperature", any(test.engine_temperature for test in tests)),
        ("intake_closing", not healthy.computed or not _closing_unknown(engine)),
        ("decompressor", not engine.decompressor),
    )
    unknown = [known["unknown"][name] ** 2 for name, is_told in told if not is_told]
    spread = float(np.sqrt(healthy.spread**2 + sum(unknown)))
    basis = healthy.basis
    if thin_air != 1.0:
        basis += say(", corrected for altitude")
    if cold:
        basis += say(", less for a cold engine")
    specified = engine.specification.compression_min or engine.specification.compression_max
    return Expectation(
        healthy.pressure_pa * thin_air * shift, spread, basis, response, specified is not None
    )


def _specified(given: Specification) -> _Healthy | None:
    """By the engine maker's figures; None where there are none."""
    spread = float(knowledge().pressure["level"]["specified"])
    least, most = (
        pressure_pa(end) if end else None for end in (given.compression_min, given.compression_max)
    )
    if least and most and most >= least:
        wide = float(np.hypot(spread, np.log(most / least) / 4))
        return _Healthy((least + most) / 2, wide, say("the specification's range"))
    if least:
        middle = least * (1 + ONE_FIGURE_MARGIN)
        return _Healthy(middle, spread, say("the specified minimum and a tenth"))
    if most:
        middle = most / (1 + ONE_FIGURE_MARGIN)
        return _Healthy(middle, spread, say("the specified maximum less a tenth"))
    return None


def _of_its_kind(engine: Engine, response: Response) -> _Healthy:
    """Computed from the ratio, or what engines of this kind usually show."""
    known = knowledge().pressure
    if response.geometry_known:
        basis = say("computed from the compression ratio")
        return _Healthy(response.healthy_pa, known["level"]["known_geometry"], basis, computed=True)
    small = engine.cooling == "air" and engine.cylinders <= SMALL
    usual = (
        known["usual"].get("two-stroke-small") if engine.cycle == "two-stroke" and small else None
    )
    if usual:
        basis = say("what small two-strokes usually show")
        return _Healthy(usual["pressure_psi"] * PSI_PA, usual["spread"], basis)
    basis = say("computed for an ordinary engine; nothing is known of this one")
    return _Healthy(response.healthy_pa, known["level"]["unknown_engine"], basis, computed=True)


def _closing_unknown(engine: Engine) -> bool:
    """Whether the ratio is known and not when the cylinder closes, which moves what it makes."""
    closing = (engine.intake_closing_deg_abdc, engine.exhaust_closing_deg_abdc)
    return engine.compression_ratio is not None and closing == (None, None)


@lru_cache(maxsize=64)
def level_grid(
    expected: Expectation,
    readings_pa: tuple[float, ...],
    timing_prior: float,
    test_prior: float,
) -> Level:
    """The level's grid: fine where the readings put it, coarse elsewhere.

    The same arguments give the same object, so that what hangs on it can be kept.

    Parameters
    ----------
    expected : Expectation
    readings_pa : tuple of float
        All usable readings; they place the grid's points and weigh nothing. [Pa]
    timing_prior, test_prior : float
        Probabilities before any reading.

    Returns
    -------
    Level
    """
    known = knowledge().pressure
    shift = known["level_shift"]
    # A test that was run wrong hides whether the timing slipped as well.
    proper_prior = (1 - timing_prior) * (1 - test_prior)
    timing_prior = timing_prior * (1 - test_prior)
    if not readings_pa:
        beforehand = np.array([proper_prior, timing_prior, test_prior])
        return Level(np.zeros(1), np.zeros(1), beforehand[:, None])
    nodes = _nodes(np.log(np.maximum(readings_pa, 1e3) / expected.pressure_pa))
    width = np.gradient(nodes)
    proper = _normal(nodes, 0.0, expected.log_sd) * proper_prior
    timing_sd = float(np.hypot(expected.log_sd, shift["valve_timing_sd"]))
    slipped = _normal(nodes, shift["valve_timing_mean"], timing_sd)
    stands_still = _normal(nodes, shift["cam_stands_mean"], shift["cam_stands_sd"])
    share = shift["cam_stands_share"]
    timing = ((1 - share) * slipped + share * stands_still) * timing_prior
    dead = shift["test_dead_band"]
    beyond, scale = -nodes - dead, shift["test_scale"]
    lower = (beyond > 0) * np.exp(-np.maximum(beyond, 0.0) / scale) / scale
    lower *= 1 - shift["test_high_share"]
    upper_side = (nodes > dead) / (shift["test_high"] - dead) * shift["test_high_share"]
    test = (lower + upper_side) * test_prior
    parts = np.stack([proper, timing, test]) + 1e-12
    total = parts.sum(axis=0)
    log_prior = np.log(total * width)
    log_prior -= np.logaddexp.reduce(log_prior)
    return Level(nodes, log_prior, parts / total)


def timing_shifts(middle: float) -> tuple[Vector, Vector]:
    """How far slipped timing may have moved one bank's readings, around where they lie.

    Parameters
    ----------
    middle : float
        Natural logarithm of the bank's middle reading over the others'.

    Returns
    -------
    tuple of (ndarray, ndarray), shape (n,)
        The shifts, and the chance of each given that the timing slipped.
    """
    shift = knowledge().pressure["level_shift"]
    aside = np.arange(-SHIFTS_ASIDE, SHIFTS_ASIDE + 1, dtype=np.float64)
    shifts: Vector = middle + SHIFT_STEP * aside
    chances = _normal(shifts, shift["valve_timing_mean"], shift["valve_timing_sd"])
    return shifts, chances * SHIFT_STEP


def _nodes(logs: Vector) -> Vector:
    """The grid's points, close together from the upper readings' middle to the highest."""
    known = knowledge().pressure["scatter"]
    one = float(np.hypot(known["cylinder"], known["gauge"]))
    scatter = one / np.sqrt(max(len(logs) / 2, 1))
    upper = float(np.clip(np.quantile(logs, 0.75), -2.4, 0.5))
    low = upper - 4 * scatter
    high = float(np.clip(logs.max(), upper, 0.6)) + 3 * scatter
    steps = (high - low) / (2 * FINE_SHARE * scatter)
    points = min(int(np.ceil(steps - 1e-6)) + 1, MOST_FINE)
    fine = np.linspace(low, high, points)
    below = np.arange(low - COARSE_STEP / 2, min(upper - 0.6, -0.3), -COARSE_STEP)[::-1]
    above = np.arange(high + COARSE_STEP / 2, max(upper + 0.35, 0.6), COARSE_STEP)
    return np.concatenate([below, fine, above])


def _normal(x: Vector, mean: float, sd: float) -> Vector:
    density: Vector = np.exp(-0.5 * ((x - mean) / sd) ** 2) / (sd * np.sqrt(2 * np.pi))
    return density
