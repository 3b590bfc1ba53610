"""How likely a finding is under every fault set, and under what the engine shares.

A context is what acts on a cylinder from outside it: a rich mixture, a weak common spark. Tables
here have shape (contexts, sets) or (sets,) where no context matters; they are computed once for
each kind of engine and finding and then only multiplied.
"""

from __future__ import annotations

from functools import cache

import numpy as np

from core.diagnosis.states import CHAMBER_OIL, WELL_SEAL, States, Vector, states_of
from core.knowledge import Cause, Channel, knowledge

Context = frozenset[str]
NOTHING_SHARED: Context = frozenset()


class Likelihoods:
    """All likelihood tables of one kind of engine. Filled on first use, never changed after."""

    def __init__(self, cycle: str, cooling: str, *, direct: bool, contexts: tuple[Context, ...]):
        self.states: States = states_of(cycle, cooling)
        self.contexts = contexts
        self.direct = direct
        self._channels: dict[str, Vector] = {}
        self._faces: dict[bool, Vector] = {}
        self._misfire: Vector | None = None
        self._heeded = frozenset(cause for context in contexts for cause in context)

    def finding(self, finding: str, value: str) -> Vector:
        """Chance of a directly speaking finding, shape (contexts, sets) or (sets,)."""
        key = finding
        if key not in self._channels:
            self._channels[key] = self._mixed(knowledge().channels[finding])
        channel = knowledge().channels[finding]
        return np.asarray(self._channels[key][channel.index(value)])

    def well_finding(self, finding: str, value: str) -> Vector:
        """Chance of a finding that also hears the well seal, shape (seal, chamber oil) = (2, 2)."""
        channel = knowledge().channels[finding]
        table = np.empty((2, 2))
        for seal in (0, 1):
            for oil in (0, 1):
                row = np.array(channel.base)
                for cause in reversed(channel.causes):
                    active = (seal and WELL_SEAL in cause.faults) or (
                        oil and any(fault in CHAMBER_OIL for fault in cause.faults)
                    )
                    if active:
                        row = cause.strength * np.array(cause.values) + (1 - cause.strength) * row
                table[seal, oil] = row[channel.index(value)]
        return table

    def faces(self, *, injection_cut: bool) -> Vector:
        """Chance of each face, shape (faces, contexts, sets)."""
        if injection_cut not in self._faces:
            known = knowledge()
            channel = known.direct_faces if self.direct else known.faces
            mixed = self._mixed(channel, cut=injection_cut)
            shape = (len(channel.values), len(self.contexts), self.states.size)
            if mixed.ndim == 2:
                mixed = np.broadcast_to(mixed[:, None, :], shape)
            self._faces[injection_cut] = np.ascontiguousarray(mixed)
        return self._faces[injection_cut]

    def misfire(self) -> Vector:
        """Chance that the cylinder misses, shape (contexts, sets)."""
        if self._misfire is None:
            known = knowledge()
            silent = np.full((len(self.contexts), self.states.size), 1 - known.misfire_leak)
            for cause in known.misfire_causes:
                silent *= np.where(self._active(cause), 1 - cause.strength, 1.0)
            self._misfire = 1 - silent
        return self._misfire

    def _active(self, cause: Cause) -> Vector:
        """Where a cause acts, from inside or from outside, shape (contexts, sets)."""
        inside = self.states.active(cause.faults)
        outside = np.array([any(f in context for f in cause.faults) for context in self.contexts])
        return np.asarray(inside[None, :] | outside[:, None])

    def _mixed(self, channel: Channel, *, cut: bool = False) -> Vector:
        """Chance of every value: the first cause that takes effect words it, else the base."""
        shared = any(fault in self._heeded for cause in channel.causes for fault in cause.faults)
        mixed = np.empty(
            (len(channel.values), len(self.contexts) if shared else 1, self.states.size)
        )
        mixed[:] = np.array(channel.base)[:, None, None]
        for cause in reversed(channel.causes):
            strength = cause.cut_strength if cut else cause.strength
            active = self._active(cause) if shared else self.states.active(cause.faults)[None, :]
            effect = strength * active
            mixed *= 1 - effect
            mixed += np.array(cause.values)[:, None, None] * effect
        return mixed if shared else mixed[:, 0]


HEARS_THE_WELL = frozenset(
    channel.finding
    for channel in knowledge().channels.values()
    if any(WELL_SEAL in cause.faults for cause in channel.causes)
)


@cache
def likelihoods(
    cycle: str, cooling: str, direct: bool, contexts: tuple[Context, ...]
) -> Likelihoods:
    """The tables for one kind of engine, kept for the life of the process."""
    return Likelihoods(cycle, cooling, direct=direct, contexts=contexts)
