"""The posterior of one cylinder's fault sets, and what it would be without a finding.

Everything factors (see weights.py), so a finding is taken out of the whole by dividing it away.

Axes are named in the comments: c context, u mode, m mechanical, r running, p plug combination,
k world, f finding, "..." the cylinders, if a belief holds several of which the same was said.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property

import numpy as np

from core.evidence.channels import Axes, Table
from core.hidden.states import Vector
from core.inference.weights import Weights


class Belief:
    """The posterior of one cylinder's fault sets, and what it would be without a finding.

    Cylinders of which the same was said can share one belief: their responses are stacked, and
    every answer then has a leading axis for them.

    Attributes
    ----------
    weights : Weights
    response : ndarray, shape (..., terms, c, m)
        What the rest of the engine and the cylinder's own pressures say to each term of each layer
        of its weights: a gasket that leaks beside it takes its share of the firing.
    """

    def __init__(self, weights: Weights, response: Vector) -> None:
        self.weights = weights
        self.response = response
        self.tables = weights.tables

    @classmethod
    def together(cls, beliefs: Sequence[Belief]) -> Belief:
        """Beliefs of which the same was said, as one."""
        stacked = cls(beliefs[0].weights, np.array([one.response for one in beliefs]))
        stacked.posterior = np.array([one.posterior for one in beliefs])
        return stacked

    @cached_property
    def posterior(self) -> Vector:
        """Of the combinations of all three groups, one after the other; each group sums to one."""
        return self.had_been(self.response)

    def had_been(self, responses: Vector) -> Vector:
        """The posterior, had the rest of the engine or the pressures said something else.

        Parameters
        ----------
        responses : ndarray, shape (..., terms, c, m)
        """
        weights, worlds = self.weights, self.weights.worlds
        written = worlds.mode * weights.world_share
        m = np.maximum((responses * np.array(weights.by_term)).sum(axis=(-3, -2)), 0.0)
        r, p = np.zeros(()), np.zeros(())
        for at, ((share, mechanical, plug, running), gathered, by_plug) in enumerate(
            zip(weights.factors, weights.gathered, weights.at_modes, strict=True)
        ):
            own = responses[..., at, :, :]
            told = (by_plug @ own[..., None])[..., 0]  # c, r
            r = r + (share * running * told).sum(axis=-2)
            heard = (gathered @ own) * mechanical  # u, m
            by_world = (heard @ worlds.mechanical) * written  # u, k
            p = p + ((by_world @ worlds.plug.T) * plug).sum(axis=-2)
        return self.normalised(np.concatenate([m, r, p], axis=-1))

    @property
    def mechanical(self) -> Vector:
        return self.posterior[..., : len(self.tables.states.mechanical.has)]

    @property
    def running(self) -> Vector:
        first = len(self.tables.states.mechanical.has)
        return self.posterior[..., first : first + len(self.tables.states.running.has)]

    @property
    def plug(self) -> Vector:
        return self.posterior[..., -len(self.tables.states.plug.has) :]

    def reweighted(self, world_shares: Vector, term_shares: Vector) -> Vector:
        """The posterior, had the words or what was heard said something else, shape (..., f, sets).

        Parameters
        ----------
        world_shares : ndarray, shape (f, k)
        term_shares : ndarray, shape (f, terms)
        """
        shares = np.tile(term_shares.T, (len(self.weights.layers), 1))
        groups = sum(
            (share[:, None] * world_shares) @ one.swapaxes(-1, -2)
            for share, one in zip(shares, self._by_world, strict=True)
        )
        return self.normalised(np.asarray(groups))

    def normalised(self, groups: Vector) -> Vector:
        """Marginals of the three groups, each divided by the same total."""
        mechanical = len(self.tables.states.mechanical.has)
        return np.asarray(groups / groups[..., :mechanical].sum(axis=-1, keepdims=True))

    @cached_property
    def _by_world(self) -> list[Vector]:
        """For each term, the weight of every combination in every world, shape (..., sets, k)."""
        worlds, modes = self.weights.worlds, self.tables.mode_of
        found = []
        for at, (_, mechanical, plug, running) in enumerate(self.weights.factors):
            heard = self._heard(at, running) * mechanical  # u, m
            by_plug = worlds.mode * (plug @ worlds.plug)  # u, k
            by_mechanical = worlds.mode * (heard @ worlds.mechanical)  # u, k
            m = (heard.swapaxes(-1, -2) @ by_plug) * worlds.mechanical
            p = (plug.T @ by_mechanical) * worlds.plug
            own = mechanical[modes] * self.response[..., at, :, None, :]  # c, r, m
            given = (own @ worlds.mechanical) * by_plug[modes]  # c, r, k
            r = (given * running[:, :, None]).sum(axis=-3)
            found.append(np.concatenate([m, r, p], axis=-2))
        return found

    def _heard(self, term: int, running: Vector) -> Vector:
        """What one term hears from outside by mode, shape (..., u, m)."""
        return np.asarray(self.weights.by_mode(running).T @ self.response[..., term, :, :])

    @cached_property
    def _told(self) -> list[tuple[Vector, Vector]]:
        """For each term what is heard from outside, (..., u, m), beside its spread, (u, m, p)."""
        weights = self.weights
        return [
            (share * self._heard(at, running), spread)
            for at, ((share, _, _, running), spread) in enumerate(
                zip(weights.factors, weights.spread, strict=True)
            )
        ]

    @cached_property
    def _over_modes(self) -> Vector:
        """Joint weights with the modes summed out, shape (..., m, p)."""
        total: Vector = np.zeros(())
        for heard, spread in self._told:
            total = total + _summed(heard.swapaxes(-1, -2), spread.swapaxes(0, 1))
        return total

    @cached_property
    def _with_m(self) -> Vector:
        """Joint weights of (..., c, r, m)."""
        total: Vector = np.zeros(())
        for at, ((share, _, _, running), by_plug) in enumerate(
            zip(self.weights.factors, self.weights.at_modes, strict=True)
        ):
            own = (share * running)[:, :, None] * by_plug  # c, r, m
            total = total + own * self.response[..., at, :, None, :]
        return np.asarray(total)

    @cached_property
    def _with_p(self) -> Vector:
        """Joint weights of (..., c, r, p)."""
        modes, contexts = self.tables.mode_of, np.arange(self.response.shape[-2])[:, None]
        cylinders = self.response.shape[:-3]
        found = np.zeros((*cylinders, *modes.shape, len(self.tables.states.plug.has)))
        for term, ((share, _, _, running), spread) in enumerate(
            zip(self.weights.factors, self.weights.spread, strict=True)
        ):
            own = (share * running)[:, :, None]
            # Every mode in every context is more than is asked for, and sooner done than choosing;
            # one cylinder after the other, so that it stays small.
            for at in np.ndindex(cylinders):
                found[at] += (self.response[at][term] @ spread)[modes, contexts] * own
        return found

    def without_tables(self, tables: Sequence[Table]) -> Vector:
        """The posterior with each of some directly speaking findings divided away, (..., f, sets).

        Parameters
        ----------
        tables : sequence of Table
            All of them heard by this cylinder.
        """
        by_kind: dict[Axes, list[int]] = {}
        for at, table in enumerate(tables):
            by_kind.setdefault(table.axes, []).append(at)
        sets = self.posterior.shape
        found = np.empty((*sets[:-1], len(tables), sets[-1]))
        for axes, chosen in by_kind.items():
            inverse = 1 / np.stack([tables[at].chance for at in chosen])
            found[..., chosen, :] = self._divided(axes, inverse)
        return self.normalised(found)

    def _divided(self, axes: Axes, inverse: Vector) -> Vector:
        """The weights of every combination, each table divided away, shape (..., f, sets)."""
        match axes:
            case "m":
                by_r = self._with_m.sum(axis=-3).swapaxes(-1, -2)
                over = self._over_modes  # m, p
                m, p = inverse * over.sum(axis=-1)[..., None, :], inverse @ over
                return np.concatenate([m, inverse @ by_r, p], axis=-1)
            case "p":
                by_r = self._with_p.sum(axis=-3).swapaxes(-1, -2)
                over = self._over_modes
                m = inverse @ over.swapaxes(-1, -2)
                p = inverse * over.sum(axis=-2)[..., None, :]
                return np.concatenate([m, inverse @ by_r, p], axis=-1)
            case "um":
                return self._without_um(inverse)
            case "up":
                return self._without_up(inverse)
            case "cr":
                return self._without_cr(inverse)

    def _without_um(self, inverse: Vector) -> Vector:
        """From shape (f, u, m)."""
        flat = inverse.reshape(len(inverse), -1)
        m, p = np.zeros(()), np.zeros(())
        for heard, spread in self._told:
            own = inverse * heard[..., None, :, :]  # f, u, m
            m = m + (own * spread.sum(axis=-1)).sum(axis=-2)
            p = p + own.reshape(*own.shape[:-2], -1) @ spread.reshape(-1, spread.shape[-1])
        return np.concatenate([m, flat @ self._per_mode(self._with_m), p], axis=-1)

    def _without_up(self, inverse: Vector) -> Vector:
        """From shape (f, u, p)."""
        flat = inverse.reshape(len(inverse), -1)
        m, by_up = np.zeros(()), np.zeros(())
        for heard, spread in self._told:
            divided = spread @ inverse.transpose(1, 2, 0)  # u, m, f
            m = m + np.einsum("...um,umf->...fm", heard, divided)
            by_up = by_up + _summed(heard, spread)
        p = np.einsum("fup,...up->...fp", inverse, by_up)
        return np.concatenate([m, flat @ self._per_mode(self._with_p), p], axis=-1)

    def _without_cr(self, inverse: Vector) -> Vector:
        """From shape (f, c, r)."""
        flat = inverse.reshape(len(inverse), -1)
        with_m, with_p = self._with_m, self._with_p
        r = np.einsum("fcr,...cr->...fr", inverse, with_m.sum(axis=-1))
        m, p = (flat @ one.reshape(*one.shape[:-3], flat.shape[1], -1) for one in (with_m, with_p))
        return np.concatenate([m, r, p], axis=-1)

    def _per_mode(self, joint: Vector) -> Vector:
        """A joint of context, running and another group, by mode, shape (..., u other, r)."""
        gathered = self.tables.picks @ joint.swapaxes(-3, -2)  # r, u, other
        return np.asarray(gathered.reshape(*gathered.shape[:-2], -1).swapaxes(-1, -2))

    def rescaled(self, ratios: Sequence[tuple[Vector, Vector, Vector]]) -> Vector:
        """The posterior, had the priors been other by a factor of each combination.

        Parameters
        ----------
        ratios : sequence of (mechanical, running, plug), shapes (u, m), (c, r) and (u, p)
            For each layer.
        """
        weights, modes = self.weights, self.tables.mode_of
        m, r, p = np.zeros(()), np.zeros(()), np.zeros(())
        for at, ((share, _, _, own), plain) in enumerate(
            zip(weights.factors, weights.spread, strict=True)
        ):
            responses = self.response[..., at, :, :]
            mechanical, running, plug = ratios[at // len(weights.terms)]
            spread = plain * mechanical[:, :, None] * plug[:, None, :]
            scaled = share * own * running  # c, r
            by_plug = spread.sum(axis=-1)[modes]  # c, r, m
            given = (scaled[:, :, None] * by_plug).sum(axis=1)  # c, m
            m = m + (responses * given).sum(axis=-2)
            told = (by_plug @ responses[..., None])[..., 0]  # c, r
            r = r + (scaled * told).sum(axis=-2)
            heard = weights.by_mode(scaled).T @ responses  # u, m
            flat = heard.reshape(*heard.shape[:-2], -1)
            p = p + flat @ spread.reshape(-1, spread.shape[-1])
        return self.normalised(np.concatenate([m, r, p], axis=-1))

    @cached_property
    def sets(self) -> Vector:
        """Posterior of every fault set, contexts summed out, shape (..., m, r, p)."""
        total: Vector = np.zeros(())
        for at, ((share, _, _, running), spread) in enumerate(
            zip(self.weights.factors, self.weights.spread, strict=True)
        ):
            own = self.response[..., at, None, :, :]
            told = (share * running).T[:, :, None] * own  # r, c, m
            heard = np.moveaxis(self.tables.picks @ told, -1, -3)  # m, r, u
            total = total + heard @ spread.swapaxes(0, 1)
        return np.asarray(total / total.sum(axis=(-1, -2, -3), keepdims=True))


def work_out(beliefs: Sequence[Belief], *answers: str) -> None:
    """Work some answers out, at once for cylinders of which the same was said."""
    alike: dict[int, list[Belief]] = {}
    for one in beliefs:
        alike.setdefault(id(one.weights), []).append(one)
    for group in alike.values():
        if len(group) == 1:
            continue
        stacked = Belief(group[0].weights, np.array([one.response for one in group]))
        for name in answers:
            for one, answer in zip(group, getattr(stacked, name), strict=True):
                setattr(one, name, answer)


def _summed(stacked: Vector, tables: Vector) -> Vector:
    """Of shapes (..., a, b) and (a, b, c): b summed out for each a, shape (..., a, c)."""
    flat = stacked.reshape(-1, *stacked.shape[-2:]).swapaxes(0, 1)  # a, ..., b
    found = (flat @ tables).swapaxes(0, 1)
    return found.reshape(*stacked.shape[:-1], tables.shape[-1])
