"""The shape of the tables that weigh: every field known, every name checked against its list.

A row with a field that no row has, a fault that is none, or weights of the wrong length never
comes into being; nor does a fault that nothing weighs.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

import msgspec

from core.errors import KnowledgeError
from core.knowledge.rows import Row

Chances = dict[str, float]
CONTEXTS = ("worn-throughout",)  # What acts from outside and is no fault of the list.
KINDS = ("recent-work", "fault", "test", "house", "code", "engine", "when", "how-often")


class FaultRow(Row, frozen=True):
    """A fault of one or more scopes."""

    id: str
    label: str
    scope: str
    group: str
    prior: float
    consequence: str
    act: str
    degree: str
    acts_as: str | None = None
    shows: float = 1.0
    cycle: str | None = None
    cooling: str | None = None
    hazard: str | None = None
    leaks: bool = False
    exit: str | None = None
    oils: bool = False
    stops: bool = False
    cuts_out: bool = False
    remedy: str | None = None
    follows: tuple[str, ...] = ()


class Parts(Row, frozen=True):
    """How common a shared fault is at one part of several. [-]"""

    bank: float
    feed: float
    coil: float


class Faults(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    fault: tuple[FaultRow, ...]
    parts: Parts


class CauseRow(Row, frozen=True):
    """What may bring a finding about."""

    any: tuple[str, ...]
    strength: float
    values: Chances = {}
    far_strength: float | None = None
    cut_strength: float | None = None


class Base(Row, frozen=True):
    values: Chances
    low_values: Chances = {}


class Faces(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    base: Base
    cause: tuple[CauseRow, ...]
    words: dict[str, dict[str, Any]]


class ChannelRow(Row, frozen=True):
    finding: str
    values: Chances
    cause: tuple[CauseRow, ...]


class TagRow(Row, frozen=True):
    finding: str
    word: str
    present: float
    cause: tuple[CauseRow, ...]
    unless: str | None = None


class MisfireRow(Row, frozen=True):
    leak: float
    beside: float
    far_age: float
    cause: tuple[CauseRow, ...]


class HeardRow(Row, frozen=True):
    finding: str
    fires: Chances
    misses: Chances


class SharedRow(Row, frozen=True):
    finding: str
    fault: str
    present: Chances
    absent: Chances


class Far(Row, frozen=True):
    points_share: float
    dwell_deg: float
    timing_deg: float


class Usual(Row, frozen=True):
    points_gap_mm: tuple[float, float]
    dwell_share: tuple[float, float]
    timing_deg: tuple[float, float]


class Channels(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    channel: tuple[ChannelRow, ...]
    tag: tuple[TagRow, ...]
    misfire: MisfireRow
    heard: tuple[HeardRow, ...]
    shared: tuple[SharedRow, ...]
    far: Far
    usual: Usual


class HabitRow(Row, frozen=True):
    id: str
    label: str
    prior: Chances


class Habits(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    habit: tuple[HabitRow, ...]


class ModifierRow(Row, frozen=True):
    when: str
    odds: Chances


class BankCode(Row, frozen=True):
    own: float
    other: float
    engine: float


class Wear(Row, frozen=True):
    half_at: float
    steepness: float
    least: float
    worn_set: float
    fresh_set: float


class Modifiers(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    modifier: tuple[ModifierRow, ...]
    bank_code: BankCode
    wear: Wear


SHAPES = {
    "faults": Faults,
    "faces": Faces,
    "channels": Channels,
    "habits": Habits,
    "modifiers": Modifiers,
}


def check_weighing(raw: Mapping[str, Mapping[str, Any]]) -> None:
    """Check the tables that weigh.

    Raises
    ------
    KnowledgeError
        If one does not have its shape, names what is not there, or leaves a fault unweighed.
    """
    tables: dict[str, Any] = {}
    for name, shape in SHAPES.items():
        try:
            tables[name] = msgspec.convert(raw[name], shape)
        except msgspec.ValidationError as refused:
            raise KnowledgeError(f"{name}.toml", str(refused), "rows as weighing.py") from None
    faults: Faults = tables["faults"]
    known = {one.id for one in faults.fault} | {one.acts_as for one in faults.fault if one.acts_as}
    known |= {one.id for one in tables["habits"].habit} | set(CONTEXTS)
    weighed: set[str] = set()
    for where, names in _named(tables):
        unknown = set(names) - known
        if unknown:
            raise KnowledgeError(where, sorted(unknown), "faults of faults.toml")
        weighed.update(names)
    leaking = {one.id for one in faults.fault if one.leaks} | raw["pressure"]["spread"].keys()
    levels = {one.id for one in faults.fault if one.group == "level"}
    forgotten = {one.id for one in faults.fault} - weighed - leaking - levels
    forgotten -= {one.id for one in faults.fault if one.acts_as in weighed}
    if forgotten:
        raise KnowledgeError("faults.toml", sorted(forgotten), "a row that weighs it")
    _modifiers(tables["modifiers"], known)
    _lengths(raw["pressure"])


def _named(tables: Mapping[str, Any]) -> Iterator[tuple[str, tuple[str, ...]]]:
    """Every row that weighs, with the faults that it names."""
    channels: Channels = tables["channels"]
    for cause in tables["faces"].cause:
        yield "faces/cause", cause.any
    for row in channels.channel:
        yield from ((f"channels/{row.finding}", cause.any) for cause in row.cause)
    for tag in channels.tag:
        yield from ((f"channels/{tag.finding}:{tag.word}", cause.any) for cause in tag.cause)
    for cause in channels.misfire.cause:
        yield "channels/misfire", cause.any
    for shared in channels.shared:
        yield f"channels/{shared.finding}", (shared.fault,)


def _modifiers(table: Modifiers, known: set[str]) -> None:
    for row in table.modifier:
        kind, _, name = row.when.partition("/")
        if kind not in KINDS or (kind == "fault" and name not in known):
            raise KnowledgeError(f"modifiers/{row.when}", row.when, f"one of {', '.join(KINDS)}")
        unknown = set(row.odds) - known
        if unknown:
            raise KnowledgeError(f"modifiers/{row.when}", sorted(unknown), "faults of faults.toml")
        if min(row.odds.values(), default=1.0) <= 0:
            raise KnowledgeError(f"modifiers/{row.when}", row.odds, "factors above zero")


def _lengths(pressure: Mapping[str, Any]) -> None:
    """Weights that go with a grid are as many as its points."""
    areas = len(pressure["areas"]["present"])
    for fault, row in pressure["spread"].items():
        if len(row["weights"]) != areas:
            raise KnowledgeError(f"pressure/spread/{fault}", row["weights"], f"{areas} weights")
    wet, worn = pressure["wet"], pressure["worn"]
    if len({len(wet["gains"]), len(wet["closed"]), len(wet["weights"])}) != 1:
        raise KnowledgeError("pressure/wet", wet["weights"], "as many as there are gains")
    if len(worn["degrees"]) != len(worn["chances"]):
        raise KnowledgeError("pressure/worn", worn["chances"], "as many as there are degrees")
