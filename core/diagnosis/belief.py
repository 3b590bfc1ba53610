"""What one cylinder's words are worth, kept as a sum of worlds in which everything factors.

Once it is known who wrote the face (world k) and whether the miss is asked for (term t), the weight
of a fault set is a product of a mechanical, a plug and a running factor, which meet only through
the mode u. So no array over all fault sets is needed for the answer, and a finding is taken out of
the whole by dividing it away.

Axes are named in the comments: c context, u mode, m mechanical, r running, p plug combination,
k world, f finding.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from core.diagnosis.channels import Likelihoods, Table, Worlds
from core.diagnosis.states import Vector


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
    def by_mechanical(self) -> Vector:
        """Summed over running and plug, shape (c, m)."""
        total = np.zeros((len(self.running), self.mechanical.shape[1]))
        for (share, _, _, running), summed in zip(self.factors, self.by_plug, strict=True):
            total += share * (self.by_mode(running) @ summed)
        return np.maximum(total, 0.0)

    def by_mode(self, running: Vector) -> Vector:
        """Running weights gathered by mode, shape (c, u)."""
        shape = (len(running), len(self.tables.modes))
        flat = np.bincount(self.tables.mode_slots, running.ravel(), shape[0] * shape[1])
        return np.asarray(flat, dtype=np.float64).reshape(shape)

    def untouched(self) -> Vector:
        """Weight of having neither a mechanical nor a running fault, shape (c,)."""
        first = self.tables.mode_of[:, 0]
        terms = zip(self.factors, self.by_plug, strict=True)
        return np.asarray(
            sum(share * running[:, 0] * summed[first, 0] for (share, _, _, running), summed in terms)
        )


class Belief:
    """The posterior of one cylinder's fault sets, and what it would be without a finding.

    Attributes
    ----------
    weights : Weights
    response : ndarray, shape (c, m)
        What the rest of the engine and the cylinder's own pressures say.
    """

    def __init__(self, weights: Weights, response: Vector) -> None:
        self.weights = weights
        self.response = response
        self.tables = weights.tables

    @cached_property
    def posterior(self) -> Vector:
        """Of the combinations of all three groups, one after the other; each group sums to one."""
        return self.reweighted(self.weights.world_share, [t.share for t in self.weights.terms])

    @property
    def mechanical(self) -> Vector:
        return self.posterior[: len(self.tables.states.mechanical.has)]

    @property
    def running(self) -> Vector:
        first = len(self.tables.states.mechanical.has)
        return self.posterior[first : first + len(self.tables.states.running.has)]

    @property
    def plug(self) -> Vector:
        return self.posterior[-len(self.tables.states.plug.has) :]

    def reweighted(self, world_share: Vector, term_shares: Sequence[float]) -> Vector:
        """The posterior, had the words or what was heard said something else.

        Parameters
        ----------
        world_share : ndarray, shape (k,) or (k, f)
        term_shares : sequence of float
        """
        by_world = sum(
            share * one for share, one in zip(term_shares, self._by_world, strict=False)
        )
        return self.normalised((by_world @ world_share).T)

    def normalised(self, groups: Vector) -> Vector:
        """Marginals of the three groups, each divided by the same total."""
        mechanical = len(self.tables.states.mechanical.has)
        return np.asarray(groups / groups[..., :mechanical].sum(axis=-1, keepdims=True))

    @cached_property
    def _by_world(self) -> list[Vector]:
        """For each term, the weight of every combination in every world, shape (m + r + p, k)."""
        worlds, tables = self.weights.worlds, self.tables
        found = []
        for _, mechanical, plug, running in self.weights.factors:
            heard = self._heard(running)  # u, m
            by_plug = worlds.mode * (plug @ worlds.plug)  # u, k
            by_mechanical = worlds.mode * ((heard * mechanical) @ worlds.mechanical)  # u, k
            m = ((heard * mechanical).T @ by_plug) * worlds.mechanical
            p = (plug.T @ by_mechanical) * worlds.plug
            listening = mechanical[:, None, :] * self.response[None]  # u, c, m
            modes, contexts, _ = listening.shape
            flat = listening.reshape(modes * contexts, -1) @ worlds.mechanical
            given = flat.reshape(modes, contexts, -1) * by_plug[:, None, :]
            rows = np.arange(contexts)[:, None]
            chosen = given[tables.mode_of, rows]  # c, r, k
            r = np.einsum("crk,cr->rk", chosen, running)
            found.append(np.concatenate([m, r, p]))
        return found

    def _heard(self, running: Vector) -> Vector:
        """What is heard from outside by mode, shape (u, m)."""
        return np.asarray(self.weights.by_mode(running).T @ self.response)

    @cached_property
    def _by_running(self) -> tuple[Vector, Vector, Vector]:
        """Joint weights of (u, m, p), of (c, r, m) and of (c, r, p)."""
        weights, worlds, tables = self.weights, self.weights.worlds, self.tables
        rows = np.arange(len(weights.running))[:, None]
        written = worlds.mode * weights.world_share  # u, k
        both, with_m, with_p = 0.0, 0.0, 0.0
        for (share, mechanical, plug, running), summed in zip(
            weights.factors, weights.by_plug, strict=True
        ):
            face = (written[:, None, :] * worlds.mechanical[None]) @ worlds.plug.T  # u, m, p
            heard = self._heard(running) * mechanical
            both = both + share * face * heard[:, :, None] * plug[:, None, :]
            own = share * running[:, :, None]
            with_m = with_m + own * self.response[:, None, :] * summed[tables.mode_of]
            listening = mechanical[:, None, :] * self.response[None]  # u, c, m
            modes, contexts, _ = listening.shape
            told = (listening.reshape(modes * contexts, -1) @ worlds.mechanical).reshape(
                modes, contexts, -1
            )
            told = (told * written[:, None, :]).reshape(modes * contexts, -1) @ worlds.plug.T
            told = told.reshape(modes, contexts, -1) * plug[:, None, :]
            with_p = with_p + own * told[tables.mode_of, rows]
        return np.asarray(both), np.asarray(with_m), np.asarray(with_p)

    def without_tables(self, tables: Sequence[Table]) -> Vector:
        """The posterior with each of some directly speaking findings divided away, shape (f, ...).

        Parameters
        ----------
        tables : sequence of Table
            All of them heard by this cylinder.
        """
        sizes = [len(group.has) for group in self.tables.states.groups]
        found = np.empty((len(tables), sum(sizes)))
        for kind in ("m", "p", "cr"):
            at = [i for i, table in enumerate(tables) if table.axes.endswith(kind)]
            if at:
                found[at] = getattr(self, f"_without_{kind}")([tables[i] for i in at])
        return self.normalised(found)

    def _without_m(self, tables: Sequence[Table]) -> Vector:
        both, with_m, _ = self._by_running
        inverse = 1 / np.stack([np.broadcast_to(t.chance, both.shape[:2]) for t in tables])
        flat = inverse.reshape(len(tables), -1)
        m = (inverse * both.sum(axis=2)).sum(axis=1)
        r = (inverse[:, self.tables.mode_of] * with_m).sum(axis=(1, 3))
        return np.concatenate([m, r, flat @ both.reshape(flat.shape[1], -1)], axis=1)

    def _without_p(self, tables: Sequence[Table]) -> Vector:
        both, _, with_p = self._by_running
        shape = (both.shape[0], both.shape[2])
        inverse = 1 / np.stack([np.broadcast_to(t.chance, shape) for t in tables])
        flat = inverse.reshape(len(tables), -1)
        m = flat @ both.transpose(0, 2, 1).reshape(flat.shape[1], -1)
        r = (inverse[:, self.tables.mode_of] * with_p).sum(axis=(1, 3))
        return np.concatenate([m, r, (inverse * both.sum(axis=1)).sum(axis=1)], axis=1)

    def _without_cr(self, tables: Sequence[Table]) -> Vector:
        _, with_m, with_p = self._by_running
        inverse = 1 / np.stack([table.chance for table in tables])  # f, c, r
        flat = inverse.reshape(len(tables), -1)
        r = (inverse * with_m.sum(axis=2)).sum(axis=1)
        m = flat @ with_m.reshape(flat.shape[1], -1)
        return np.concatenate([m, r, flat @ with_p.reshape(flat.shape[1], -1)], axis=1)

    def sets(self) -> Vector:
        """Posterior of every fault set, contexts summed out, shape (m, r, p)."""
        worlds, tables = self.weights.worlds, self.tables
        picks = np.equal.outer(np.arange(len(tables.modes)), tables.mode_of.T).astype(np.float64)
        written = worlds.mode * self.weights.world_share
        face = (written[:, None, :] * worlds.mechanical[None]) @ worlds.plug.T  # u, m, p
        total = 0.0
        for share, mechanical, plug, running in self.weights.factors:
            own = running.T[:, :, None] * self.response[None]  # r, c, m
            by_mode = np.matmul(picks.transpose(1, 0, 2), own)  # r, u, m
            weighed = face * mechanical[:, :, None] * plug[:, None, :]
            total = total + share * np.matmul(
                by_mode.transpose(2, 0, 1), weighed.transpose(1, 0, 2)
            )
        return np.asarray(total / np.sum(total))
