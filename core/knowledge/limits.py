"""The table of limits as records: from where on something is said, or asked about."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib import resources

import msgspec

from core.knowledge.rows import Row

Span = tuple[float, float]


class Gap(Row, frozen=True):
    narrow: float
    over: float
    wide: float
    plausible_mm: Span
    slip_factor: float
    other_unit_factor: float


class Puff(Row, frozen=True):
    low: float
    high: float
    above_final: float
    wet_below_dry: float


class Running(Row, frozen=True):
    least_count: int
    count_factor: float
    dead_share: float
    weak_share: float


class Leakdown(Row, frozen=True):
    disagree_percent: float
    crankcase_murmur: float
    least_area: float


class Slip(Row, frozen=True):
    chance: float
    spread: float
    suspicious_pressure: Span
    meant_within: Span
    most_that_follow: int
    plausible_nm: Span


class Test(Row, frozen=True):
    one_figure_margin: float
    bank_shift: float
    another_day: float
    same_test: float
    turned: float


class Compared(Row, frozen=True):
    floor_psi: float
    shades_apart: int


class Act(Row, frozen=True):
    least_bits: float
    least_a_minute: float
    alike: float
    cause: float
    swap_from: float
    spoilt: float
    scatter: float
    leak_scatter: float


class Said(Row, frozen=True):
    way: float
    shared: float
    shared_raised: float
    leads: float
    bad_luck: float
    always: float
    complaint: float


class SlipsOfWork(Row, frozen=True):
    torque: float
    meant: float
    gap: float
    turn: float
    mix: float
    pressure: float
    near_pressure: float


class Limits(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Every limit, by what it is about."""

    gap: Gap
    puff: Puff
    running: Running
    leakdown: Leakdown
    slip: Slip
    test: Test
    compared: Compared
    act: Act
    said: Said
    slips_of_work: SlipsOfWork


@cache
def limits() -> Limits:
    """The ones in `limits.toml`."""
    text = (resources.files(__package__) / "limits.toml").read_text("utf-8")
    return msgspec.convert(tomllib.loads(text), Limits)
