"""How likely a finding is under every fault set, and under what the engine shares.

A context is what acts on a cylinder from outside it: a rich mixture, a weak common spark. It acts
like a running fault, so what matters is the union of the two. Contexts and running combinations
whose unions no table can tell apart are one `mode`; there are some thirty of them, and every table
that mixes groups is kept by mode.

Most findings hear one group only. A table's axes are therefore named by what it hears:
m mechanical, p plug, cr context and running, um mode and mechanical, up mode and plug.
Only the face hears all three groups. Each of its causes belongs to one of them, so that once it is
known which cause wrote the face, its chance factors: the face is a short sum of such worlds (k).
A miss is a noisy-OR, which factors by itself.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache, cached_property, lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from core.hidden.states import (
    CHAMBER_OIL,
    MECHANICAL,
    PLUG,
    RUNNING,
    WELL_SEAL,
    Context,
    Mask,
    States,
    Vector,
    states_of,
)
from core.knowledge import Cause, Channel, knowledge

Manner = frozenset[str]
Axes = Literal["m", "p", "cr", "um", "up"]

HEARS_THE_WELL = frozenset(
    channel.finding
    for channel in knowledge().channels.values()
    if any(WELL_SEAL in cause.faults for cause in channel.causes)
)


@dataclass(frozen=True, eq=False)
class Table:
    """The chance of one finding, over the axes it hears."""

    axes: Axes
    chance: Vector


@dataclass(frozen=True, eq=False)
class Worlds:
    """Who wrote the face of a plug: one world for each cause, the last for none of them.

    The chance of world k is `mode[u, k] * mechanical[m, k] * plug[p, k]`.

    Attributes
    ----------
    faces : ndarray, shape (k, faces)
        Chance of every face in each world.
    mode : ndarray, shape (u, k)
    mechanical : ndarray, shape (m, k)
    plug : ndarray, shape (p, k)
    """

    faces: Vector
    mode: Vector
    mechanical: Vector
    plug: Vector

    @cached_property
    def inside(self) -> Vector:
        """Chance of each world but for the mode, shape (k, m p)."""
        both = self.mechanical.T[:, :, None] * self.plug.T[:, None, :]
        return both.reshape(len(both), -1)


class Likelihoods:
    """All likelihood tables of one kind of engine. Filled on first use, never changed after."""

    def __init__(self, cycle: str, cooling: str, contexts: tuple[Context, ...]):
        self.states: States = states_of(cycle, cooling)
        self.contexts = contexts
        self._tables: dict[str, tuple[Axes, Vector]] = {}
        self._findings: dict[tuple[str, str], Table] = {}
        self._well: dict[tuple[str, str], Vector] = {}
        self._worlds: dict[Manner, Worlds] = {}
        self._fires: dict[Manner, tuple[Vector, Vector, Vector]] = {}
        self.mode_of, self.modes = self._modes()
        rows = np.arange(len(contexts))[:, None]
        self.mode_slots = (rows * len(self.modes) + self.mode_of).ravel()
        at = np.arange(len(self.modes))[None, :, None]
        self.picks = (self.mode_of.T[:, None, :] == at).astype(np.float64)  # r, u, c

    def _unions(self) -> list[list[frozenset[str]]]:
        """What acts on a cylinder for every context and running combination."""
        return [
            [_acting(context) | own for own in self.states.running.combinations]
            for context in self.contexts
        ]

    def _shown(self) -> list[list[frozenset[str]]]:
        """The same of what shows on a nose."""
        return [
            [context | own for own in self.states.running.combinations] for context in self.contexts
        ]

    def _modes(self) -> tuple[NDArray[np.intp], list[frozenset[str]]]:
        """Number the unions by what the mixed tables can tell apart, shape (contexts, running)."""
        known = knowledge()
        mixed = [c for c in known.channels.values() if self._axes(c) in ("um", "up")]
        heard = [cause.faults for channel in mixed for cause in channel.causes]
        heard += [(name,) for name in self._raising()]
        faces = [cause.faults for cause in known.faces.causes]
        numbers: dict[tuple[bool, ...], int] = {}
        modes: list[frozenset[str]] = []
        mode_of = np.empty((len(self.contexts), len(self.states.running.combinations)), np.intp)
        for c, (unions, seen) in enumerate(zip(self._unions(), self._shown(), strict=True)):
            for r, (union, shown) in enumerate(zip(unions, seen, strict=True)):
                signature = (
                    *(not union.isdisjoint(row) for row in heard),
                    *(not shown.isdisjoint(row) for row in faces),
                )
                if signature not in numbers:
                    numbers[signature] = len(modes)
                    modes.append(shown)
                mode_of[c, r] = numbers[signature]
        return mode_of, modes

    def _raising(self) -> list[str]:
        """What from outside or of spark and fuel raises a fault of the other groups."""
        others = {*self.states.mechanical.faults, *self.states.plug.faults}
        return [
            when.removeprefix("fault/")
            for when, modifier in knowledge().modifiers.items()
            if when.startswith("fault/") and not others.isdisjoint(modifier.odds)
        ]

    def _axes(self, channel: Channel) -> Axes:
        causes = {fault for cause in channel.causes for fault in cause.faults}
        mechanical = bool(causes & set(self.states.mechanical.faults))
        plug = bool(causes & set(self.states.plug.faults))
        running = bool(causes - set(self.states.mechanical.faults) - set(self.states.plug.faults))
        if running:
            return "um" if mechanical else "up" if plug else "cr"
        return "m" if mechanical else "p"

    def finding(self, finding: str, value: str) -> Table:
        """Chance of a directly speaking finding."""
        if (finding, value) not in self._findings:
            channel = knowledge().channels[finding]
            if finding not in self._tables:
                axes = self._axes(channel)
                self._tables[finding] = (axes, _worded(channel, self._activity(axes, channel)))
            axes, table = self._tables[finding]
            self._findings[finding, value] = Table(axes, table[channel.index(value)])
        return self._findings[finding, value]

    def _activity(self, axes: Axes, channel: Channel) -> list[Mask]:
        """For each cause, where on the axes it acts."""
        return [self._acts(axes, cause) for cause in channel.causes]

    def _acts(self, axes: Axes, cause: Cause) -> Mask:
        states = self.states
        if axes == "m":
            return states.mechanical.active(cause.faults)
        if axes == "p":
            return states.plug.active(cause.faults)
        if axes == "cr":
            return np.array(
                [[any(f in union for f in cause.faults) for union in row] for row in self._unions()]
            )
        inner = states.mechanical if axes == "um" else states.plug
        outer = np.array([not _acting(mode).isdisjoint(cause.faults) for mode in self.modes])
        return np.asarray(outer[:, None] | inner.active(cause.faults)[None, :])

    def _shows_in_mode(self, cause: Cause) -> Mask:
        return np.array([not mode.isdisjoint(cause.faults) for mode in self.modes])

    def well_finding(self, finding: str, value: str) -> Vector:
        """Chance of a finding that also hears the well seal, shape (seal, chamber oil) = (2, 2)."""
        if (finding, value) not in self._well:
            self._well[finding, value] = self._worded_well(finding, value)
        return self._well[finding, value]

    def _worded_well(self, finding: str, value: str) -> Vector:
        channel = knowledge().channels[finding]
        seal, oil = np.meshgrid([False, True], [False, True], indexing="ij")
        acts = [
            (seal & (WELL_SEAL in cause.faults))
            | (oil & any(fault in CHAMBER_OIL for fault in cause.faults))
            for cause in channel.causes
        ]
        return np.asarray(_worded(channel, acts)[channel.index(value)])

    def worlds(self, manner: Manner) -> Worlds:
        """The face as a sum of worlds; where injection was cut, fewer misses wet the plug."""
        if manner not in self._worlds:
            self._worlds[manner] = self._split(knowledge().faces, manner)
        return self._worlds[manner]

    def _split(self, channel: Channel, manner: Manner) -> Worlds:
        count = len(channel.causes)
        states = self.states
        by_group = {
            RUNNING: np.ones((len(self.modes), count + 1)),
            MECHANICAL: np.ones((len(states.mechanical.has), count + 1)),
            PLUG: np.ones((len(states.plug.has), count + 1)),
        }
        for at, cause in enumerate(channel.causes):
            group = self._group_of(cause.faults)
            acts = {
                RUNNING: self._shows_in_mode(cause),
                MECHANICAL: states.mechanical.active(cause.faults),
                PLUG: states.plug.active(cause.faults),
            }[group]
            effect = cause.strength_in(manner) * acts
            by_group[group][:, at] *= effect
            by_group[group][:, at + 1 :] *= (1 - effect)[:, None]
        faces = np.array([*(cause.values for cause in channel.causes), channel.base_in(manner)])
        return Worlds(faces, by_group[RUNNING], by_group[MECHANICAL], by_group[PLUG])

    @cached_property
    def coupled(self) -> tuple[Vector, Vector]:
        """How running faults raise the other groups', shapes (u, m) and (u, p).

        What acts from outside raises them as well: an engine that overheats cracks insulators.
        """
        factors = []
        for group in (self.states.mechanical, self.states.plug):
            by_mode = np.ones((len(self.modes), len(group.has)))
            for when, modifier in knowledge().modifiers.items():
                kind, _, name = when.partition("/")
                if kind != "fault":
                    continue
                acting = np.array([name in _acting(mode) for mode in self.modes])
                for fault, factor in modifier.odds.items():
                    raised = np.logical_and.outer(acting, group.active((fault,)))
                    by_mode *= np.where(raised, factor, 1.0)
            factors.append(by_mode)
        return factors[0], factors[1]

    @cached_property
    def coupled_running(self) -> Vector:
        """How running faults raise each other, shape (c, r): what runs lean runs hot as well."""
        running = self.states.running
        raised = np.ones(self.mode_of.shape)
        for when, modifier in knowledge().modifiers.items():
            kind, _, name = when.partition("/")
            if kind == "fault":
                acting = np.array([[name in union for union in row] for row in self._unions()])
                for fault, factor in modifier.odds.items():
                    raised *= np.where(acting & running.active((fault,))[None, :], factor, 1.0)
        return raised

    @lru_cache(maxsize=512)  # noqa: B019 - there is one for each kind of engine, kept for good
    def given(self, factors: tuple[tuple[str, float], ...]) -> tuple[Vector, Vector, Vector]:
        """Prior of each combination, given what acts on it, shapes (u, m), (c, r) and (u, p).

        What leads to a fault raises its odds there and says nothing of itself by that: each row
        sums to one.
        """
        states = self.states
        raised = (self.coupled[0], self.coupled_running, self.coupled[1])
        found = [
            one * group.prior(factors) for one, group in zip(raised, states.groups, strict=True)
        ]
        m, r, p = (one / one.sum(axis=1, keepdims=True) for one in found)
        return m, r, p

    def fires(self, manner: Manner) -> tuple[Vector, Vector, Vector]:
        """Chance that a cylinder does not miss, as factors of shape (m,), (c, r) and (p,)."""
        if manner not in self._fires:
            self._fires[manner] = self._firing(manner)
        return self._fires[manner]

    def _firing(self, manner: Manner) -> tuple[Vector, Vector, Vector]:
        known = knowledge()
        mechanical = np.ones(len(self.states.mechanical.has))
        running = np.full(self.mode_of.shape, 1 - known.misfire_leak)
        plug = np.ones(len(self.states.plug.has))
        for cause in known.misfire_causes:
            group = self._group_of(cause.faults)
            if group == MECHANICAL:
                mechanical *= 1 - cause.strength_in(manner) * self.states.mechanical.active(
                    cause.faults
                )
            elif group == PLUG:
                plug *= 1 - cause.strength_in(manner) * self.states.plug.active(cause.faults)
            else:
                running *= 1 - cause.strength_in(manner) * self._acts("cr", cause)
        return mechanical, running, plug

    def _group_of(self, faults: Iterable[str]) -> str:
        """A cause of a miss or of a face names faults of one group, so that its chance factors."""
        if set(faults) & set(self.states.mechanical.faults):
            return MECHANICAL
        return PLUG if set(faults) & set(self.states.plug.faults) else RUNNING


def weighing(fault: str) -> tuple[Channel, ...]:
    """Every channel that speaks directly of a fault."""
    return tuple(
        channel
        for channel in knowledge().channels.values()
        if any(fault in cause.faults for cause in channel.causes)
    )


def _acting(names: frozenset[str]) -> frozenset[str]:
    """What acts on a cylinder, whether or not its nose shows it."""
    return frozenset(name.partition("@")[0] for name in names)


def _worded(channel: Channel, acts: list[Mask]) -> Vector:
    """Chance of every value: the first cause that takes effect words it, else the base."""
    shape = acts[0].shape if acts else (1,)
    base = np.array(channel.base).reshape(-1, *[1] * len(shape))
    mixed = np.broadcast_to(base, (len(channel.values), *shape)).copy()
    for cause, active in zip(reversed(channel.causes), reversed(acts), strict=True):
        effect = cause.strength * active
        mixed *= 1 - effect
        mixed += np.array(cause.values).reshape(base.shape) * effect
    return mixed


@cache
def likelihoods(cycle: str, cooling: str, contexts: tuple[Context, ...]) -> Likelihoods:
    """The tables for one kind of engine, kept for the life of the process."""
    return Likelihoods(cycle, cooling, contexts)
