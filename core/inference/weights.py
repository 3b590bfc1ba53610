"""What one cylinder's words are worth, kept as a sum of worlds in which everything factors.

Once it is known who wrote the face (world k) and whether the miss is asked for (term t), the weight
of a fault set is a product of a mechanical, a plug and a running factor, which meet only through
the mode u. So no array over all fault sets is needed for the answer.

Axes are named in the comments: c context, u mode, m mechanical, r running, p plug combination,
k world.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from core.evidence.channels import Likelihoods, Worlds
from core.hidden.states import Vector
from core.knowledge import knowledge


@dataclass(frozen=True, eq=False)
class Term:
    """One term of the chance of what was heard: alone, or times the chance to fire (m, cr, p)."""

    share: float
    fires: tuple[Vector, Vector, Vector] | None


@dataclass(frozen=True, eq=False)
class Weights:
    """Prior times likelihood of a cylinder's fault sets, factored.

    The weight of (c, m, r, p) is the sum over terms and worlds of
    `share * mechanical[u, m] * plug[p] * running[c, r] * world[k]` at the mode u of (c, r).

    Attributes
    ----------
    mechanical : ndarray, shape (u, m)
    plug : ndarray, shape (u, p)
    running : ndarray, shape (c, r)
    world_share : ndarray, shape (k,)
        What the words say of each world.
    """

    tables: Likelihoods
    mechanical: Vector
    plug: Vector
    running: Vector
    worlds: Worlds
    world_share: Vector
    terms: tuple[Term, ...]

    @cached_property
    def factors(self) -> list[tuple[float, Vector, Vector, Vector]]:
        """For each term its share and its mechanical (u, m), plug (u, p), running (c, r) factor."""
        found = []
        for term in self.terms:
            mechanical, plug, running = self.mechanical, self.plug, self.running
            if term.fires is not None:
                fires_m, fires_cr, fires_p = term.fires
                mechanical, plug = mechanical * fires_m, plug * fires_p
                running = running * fires_cr
            found.append((term.share, mechanical, plug, running))
        return found

    @cached_property
    def by_plug(self) -> list[Vector]:
        """For each term the plug summed out, shape (u, m)."""
        worlds = self.worlds
        found = []
        for _, mechanical, plug, _ in self.factors:
            written = (worlds.mode * (plug @ worlds.plug)) * self.world_share  # u, k
            found.append(mechanical * (written @ worlds.mechanical.T))
        return found

    @cached_property
    def spread(self) -> list[Vector]:
        """For each term the worlds summed out, shape (u, m, p)."""
        worlds = self.worlds
        face = (worlds.mode * self.world_share) @ worlds.inside
        return [
            face.reshape(len(mechanical), -1, plug.shape[1])
            * (mechanical[:, :, None] * plug[:, None])
            for _, mechanical, plug, _ in self.factors
        ]

    @cached_property
    def by_term(self) -> list[Vector]:
        """For each term summed over running and plug, shape (c, m)."""
        return [
            share * (self.by_mode(running) @ summed)
            for (share, _, _, running), summed in zip(self.factors, self.by_plug, strict=True)
        ]

    @cached_property
    def by_mechanical(self) -> Vector:
        """Summed over running and plug, shape (c, m)."""
        return self.with_gasket(0.0)

    @cached_property
    def by_beside(self) -> Vector:
        """The same with the gaskets beside tight, and with one leaking, shape (2, c, m).

        A gasket that leaks makes a miss as the cylinder's own faults do: that much less it fires.
        """
        return np.array([self.by_mechanical, self.with_gasket(knowledge().misfire_beside)])

    def with_gasket(self, robbed: float) -> Vector:
        """Summed over running and plug where a share of the firing is lost, shape (c, m)."""
        total = np.zeros(self.by_term[0].shape)
        for term, summed in zip(self.terms, self.by_term, strict=True):
            total += summed if term.fires is None else (1 - robbed) * summed
        return np.maximum(total, 0.0)

    def for_terms(self, tight: Vector, leaking: Vector) -> Vector:
        """What is said to a cylinder by whether a gasket beside it leaks, as each term hears it.

        Parameters
        ----------
        tight, leaking : ndarray, shape (..., c, m)

        Returns
        -------
        ndarray, shape (..., terms, c, m)
        """
        fires = tight + (1 - knowledge().misfire_beside) * leaking
        heard = [tight + leaking if term.fires is None else fires for term in self.terms]
        return np.stack(heard, axis=-3)

    @cached_property
    def at_modes(self) -> list[Vector]:
        """For each term `by_plug` at the mode of each context and running, shape (c, r, m)."""
        return [summed[self.tables.mode_of] for summed in self.by_plug]

    @cached_property
    def gathered(self) -> list[Vector]:
        """For each term its share of the running weights, gathered by mode, shape (u, c)."""
        return [share * self.by_mode(running).T for share, _, _, running in self.factors]

    def by_mode(self, running: Vector) -> Vector:
        """Running weights gathered by mode, shape (c, u)."""
        shape = (len(running), len(self.tables.modes))
        flat = np.bincount(self.tables.mode_slots, running.ravel(), shape[0] * shape[1])
        return np.asarray(flat, dtype=np.float64).reshape(shape)

    def without(self, faults: tuple[str, ...]) -> Weights:
        """The same of the fault sets that hold none of some faults."""
        mechanical, running, plug = (~one.active(faults) for one in self.tables.states.groups)
        return replace(
            self,
            mechanical=self.mechanical * mechanical,
            running=self.running * running,
            plug=self.plug * plug,
        )

    def clean(self) -> float:
        """Weight of having no fault at all, with nothing shared acting on it."""
        at = self.tables.mode_of[0, 0]
        terms = zip(self.factors, self.spread, strict=True)
        return float(sum(share * own[0, 0] * one[at, 0, 0] for (share, _, _, own), one in terms))

    def untouched(self) -> Vector:
        """Weight of having neither a mechanical nor a running fault, shape (c,)."""
        first = self.tables.mode_of[:, 0]
        terms = zip(self.factors, self.by_plug, strict=True)
        return np.asarray(
            sum(
                share * running[:, 0] * summed[first, 0] for (share, _, _, running), summed in terms
            )
        )
