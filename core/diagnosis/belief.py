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

WITHOUT = {
    "m": "_without_m",
    "um": "_without_m",
    "p": "_without_p",
    "up": "_without_p",
    "cr": "_without_cr",
}


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
    def by_mechanical(self) -> Vector:
        """Summed over running and plug, shape (c, m)."""
        total = np.zeros((len(self.running), self.mechanical.shape[1]))
        for (share, _, _, running), summed in zip(self.factors, self.by_plug, strict=True):
            total += share * (self.by_mode(running) @ summed)
        return np.maximum(total, 0.0)

    @cached_property
    def by_response(self) -> tuple[Vector, Vector]:
        """Weights of (c m, p) and of (c, r, m), before the response."""
        modes = self.tables.mode_of
        with_plug, with_running = np.zeros(()), np.zeros(())
        for (share, _, _, running), summed, spread in zip(
            self.factors, self.by_plug, self.spread, strict=True
        ):
            gathered = share * self.by_mode(running)
            with_plug = with_plug + gathered @ spread.reshape(len(spread), -1)
            with_running = with_running + (share * running)[:, :, None] * summed[modes]
        plugs = self.plug.shape[1]
        return with_plug.reshape(-1, plugs), with_running

    def by_mode(self, running: Vector) -> Vector:
        """Running weights gathered by mode, shape (c, u)."""
        shape = (len(running), len(self.tables.modes))
        flat = np.bincount(self.tables.mode_slots, running.ravel(), shape[0] * shape[1])
        return np.asarray(flat, dtype=np.float64).reshape(shape)

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
        return np.asarray(self.had_been(self.response[None])[0])

    def had_been(self, responses: Vector) -> Vector:
        """The posterior, had the rest of the engine or the pressures said something else.

        Parameters
        ----------
        responses : ndarray, shape (f, c, m)
        """
        with_plug, with_running = self.weights.by_response
        flat = responses.reshape(len(responses), -1)
        m = (responses * self.weights.by_mechanical).sum(axis=1)
        r = np.einsum("fcm,crm->fr", responses, with_running)
        return self.normalised(np.concatenate([m, r, flat @ with_plug], axis=1))

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

    def reweighted(self, world_shares: Vector, term_shares: Vector) -> Vector:
        """The posterior, had the words or what was heard said something else.

        Parameters
        ----------
        world_shares : ndarray, shape (f, k)
        term_shares : ndarray, shape (f, terms)
        """
        groups = sum(
            share[:, None] * (world_shares @ one.T)
            for share, one in zip(term_shares.T, self._by_world, strict=True)
        )
        return self.normalised(np.asarray(groups))

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
            given = self._listening(mechanical) * by_plug[tables.mode_of]  # c, r, k
            r = (given * running[:, :, None]).sum(axis=0)
            found.append(np.concatenate([m, r, p]))
        return found

    def _listening(self, mechanical: Vector) -> Vector:
        """Mechanical combinations summed out against the response, shape (c, r, k)."""
        own = mechanical[self.tables.mode_of] * self.response[:, None, :]
        return np.asarray(own @ self.weights.worlds.mechanical)

    def _heard(self, running: Vector) -> Vector:
        """What is heard from outside by mode, shape (u, m)."""
        return np.asarray(self.weights.by_mode(running).T @ self.response)

    @cached_property
    def _joint(self) -> tuple[Vector, Vector, Vector]:
        """Joint weights of (u, m, p), of (c, r, m) and of (c, r, p)."""
        weights, modes = self.weights, self.tables.mode_of
        rows = np.arange(len(modes))[:, None]
        both, with_p = np.zeros(()), np.zeros(())
        for (share, _, _, running), spread in zip(weights.factors, weights.spread, strict=True):
            both = both + spread * (share * self._heard(running))[:, :, None]
            told = self.response @ spread  # u, c, p
            with_p = with_p + (share * running)[:, :, None] * told[modes, rows]
        with_m = self.weights.by_response[1] * self.response[:, None, :]
        return both, with_m, with_p

    def without_tables(self, tables: Sequence[Table]) -> Vector:
        """The posterior with each of some directly speaking findings divided away, shape (f, ...).

        Parameters
        ----------
        tables : sequence of Table
            All of them heard by this cylinder.
        """
        by_kind: dict[str, list[int]] = {}
        for at, table in enumerate(tables):
            by_kind.setdefault(WITHOUT[table.axes], []).append(at)
        found = np.empty((len(tables), len(self.posterior)))
        for kind, chosen in by_kind.items():
            found[chosen] = getattr(self, kind)([tables[at] for at in chosen])
        return self.normalised(found)

    def _without_m(self, tables: Sequence[Table]) -> Vector:
        both, with_m, _ = self._joint
        inverse = _inverse(tables, both.shape[:2])
        flat = inverse.reshape(len(tables), -1)
        m = (inverse * both.sum(axis=2)).sum(axis=1)
        r = flat @ self._per_mode(with_m)
        return np.concatenate([m, r, flat @ both.reshape(flat.shape[1], -1)], axis=1)

    def _without_p(self, tables: Sequence[Table]) -> Vector:
        both, _, with_p = self._joint
        shape = (both.shape[0], both.shape[2])
        inverse = _inverse(tables, shape)
        flat = inverse.reshape(len(tables), -1)
        m = flat @ both.transpose(0, 2, 1).reshape(flat.shape[1], -1)
        r = flat @ self._per_mode(with_p)
        return np.concatenate([m, r, (inverse * both.sum(axis=1)).sum(axis=1)], axis=1)

    def _per_mode(self, joint: Vector) -> Vector:
        """A joint of context, running and another group, gathered by mode, shape (u other, r)."""
        gathered = self.tables.picks @ joint.transpose(1, 0, 2)  # r, u, other
        return np.asarray(gathered.reshape(len(gathered), -1).T)

    def _without_cr(self, tables: Sequence[Table]) -> Vector:
        _, with_m, with_p = self._joint
        inverse = 1 / np.stack([table.chance for table in tables])  # f, c, r
        flat = inverse.reshape(len(tables), -1)
        r = (inverse * with_m.sum(axis=2)).sum(axis=1)
        m = flat @ with_m.reshape(flat.shape[1], -1)
        return np.concatenate([m, r, flat @ with_p.reshape(flat.shape[1], -1)], axis=1)

    def rescaled(self, mechanical: Vector, running: Vector, plug: Vector) -> Vector:
        """The posterior, had the priors been other by a factor of each combination."""
        m = self.sets * mechanical[:, None, None] * plug
        r = np.einsum("mrp,r->mr", m, running)
        return self.normalised(
            np.concatenate([r.sum(axis=1), m.sum(axis=(0, 2)) * running, running @ m.sum(axis=0)])
        )

    @cached_property
    def sets(self) -> Vector:
        """Posterior of every fault set, contexts summed out, shape (m, r, p)."""
        total = np.zeros(())
        for (share, _, _, running), spread in zip(
            self.weights.factors, self.weights.spread, strict=True
        ):
            own = (share * running).T[:, :, None] * self.response  # r, c, m
            by_mode = np.matmul(self.tables.picks, own)  # r, u, m
            by_mode = np.ascontiguousarray(by_mode.transpose(2, 0, 1))
            total = total + np.matmul(by_mode, np.ascontiguousarray(spread.transpose(1, 0, 2)))
        return total / np.sum(total)


def _inverse(tables: Sequence[Table], shape: tuple[int, ...]) -> Vector:
    """One over the chances of some tables, each spread over a shape, shape (f, ...)."""
    inverse = np.empty((len(tables), *shape))
    for at, table in enumerate(tables):
        inverse[at] = table.chance
    return np.asarray(1 / inverse)
