"""What one cylinder's words are worth, kept as a sum of worlds in which everything factors.

Once it is known who wrote the face (world k) and whether the miss is asked for (term t), the weight
of a fault set is a product of a mechanical, a plug and a running factor, which meet only through
the mode u. So no array over all fault sets is needed for the answer.

A strand (see core/hidden/strands.py) lays factors of its own on a cylinder; what it lays are
layers here, and contexts are counted through them.

Axes are named in the comments: c context, w context of a layer, u mode, m mechanical, r running,
p plug combination, k world.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from core.evidence.channels import Likelihoods, Worlds
from core.hidden.states import Vector
from core.knowledge import knowledge

Index = NDArray[np.intp]


@dataclass(frozen=True, eq=False)
class Term:
    """One term of the chance of what was heard: alone, or times the chance to fire (m, cr, p)."""

    share: float
    fires: tuple[Vector, Vector, Vector] | None


@dataclass(frozen=True, eq=False)
class Layer:
    """Prior times likelihood of what speaks directly, in one strand.

    Attributes
    ----------
    mechanical : ndarray, shape (u, m)
    plug : ndarray, shape (u, p)
    running : ndarray, shape (c, r)
    beside : float
        Chance that a gasket leaking beside it brings no complaint that is silent there. [-]
    """

    mechanical: Vector
    plug: Vector
    running: Vector
    beside: float = 1.0


@dataclass(frozen=True, eq=False)
class Weights:
    """Prior times likelihood of a cylinder's fault sets, factored.

    The weight of (c, m, r, p) in a layer is the sum over terms and worlds of
    `share * mechanical[u, m] * plug[p] * running[c, r] * world[k]` at the mode u of (c, r).

    Attributes
    ----------
    layers : tuple of Layer
    world_share : ndarray, shape (k,)
        What the words say of each world.
    """

    tables: Likelihoods
    layers: tuple[Layer, ...]
    worlds: Worlds
    world_share: Vector
    terms: tuple[Term, ...]

    @property
    def shape(self) -> tuple[int, int, int]:
        """Of what is said to it: terms of all layers, contexts, mechanical combinations."""
        layer = self.layers[0]
        return len(self.factors), len(layer.running), layer.mechanical.shape[1]

    @cached_property
    def factors(self) -> list[tuple[float, Vector, Vector, Vector]]:
        """For each term of each layer its share and its mechanical (u, m), plug (u, p) and running
        (c, r) factor."""
        found = []
        for layer in self.layers:
            for term in self.terms:
                mechanical, plug, running = layer.mechanical, layer.plug, layer.running
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
        """Summed over running and plug, shape (w, m)."""
        return np.concatenate([self._summed(at, 0.0) for at in range(len(self.layers))])

    @cached_property
    def by_beside(self) -> Vector:
        """The same with the gaskets beside tight, and with one leaking, shape (2, w, m).

        A gasket that leaks makes a miss as the cylinder's own faults do: that much less it fires.
        """
        robbed = knowledge().misfire_beside
        leaking = [layer.beside * self._summed(at, robbed) for at, layer in enumerate(self.layers)]
        return np.array([self.by_mechanical, np.concatenate(leaking)])

    def _summed(self, layer: int, robbed: float) -> Vector:
        """Terms summed in one layer where a share of the firing is lost, shape (c, m)."""
        own = self.by_term[layer * len(self.terms) : (layer + 1) * len(self.terms)]
        total = np.zeros(own[0].shape)
        for term, summed in zip(self.terms, own, strict=True):
            total += summed if term.fires is None else (1 - robbed) * summed
        return np.maximum(total, 0.0)

    def for_terms(self, tight: Vector, leaking: Vector) -> Vector:
        """What is said to a cylinder by whether a gasket beside it leaks, as each term hears it.

        Parameters
        ----------
        tight, leaking : ndarray, shape (..., w, m)

        Returns
        -------
        ndarray, shape (..., terms of all layers, c, m)
        """
        shape = (*tight.shape[:-2], len(self.layers), -1, tight.shape[-1])
        tight, leaking = tight.reshape(shape), leaking.reshape(shape)
        leaking = leaking * np.array([layer.beside for layer in self.layers])[:, None, None]
        fires = tight + (1 - knowledge().misfire_beside) * leaking
        heard = [tight + leaking if term.fires is None else fires for term in self.terms]
        stacked = np.stack(heard, axis=-3)
        return np.asarray(stacked.reshape(*shape[:-3], -1, *stacked.shape[-2:]))

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
        layers = tuple(
            replace(
                layer,
                mechanical=layer.mechanical * mechanical,
                running=layer.running * running,
                plug=layer.plug * plug,
            )
            for layer in self.layers
        )
        return replace(self, layers=layers)

    def clean(self) -> Vector:
        """Weight of having no fault at all, with nothing shared acting on it, shape (layers,)."""
        at, worlds = self.tables.mode_of[0, 0], self.worlds
        face = worlds.mode[at] * self.world_share * worlds.mechanical[0] @ worlds.plug[0]
        each = [share * r[0, 0] * m[at, 0] * p[at, 0] * face for share, m, p, r in self.factors]
        return np.asarray(np.array(each).reshape(len(self.layers), -1).sum(axis=1))

    def plugs_given(self, mode: Index, mechanical: Index) -> Vector:
        """What the face says of every plug combination, given a mode and a mechanical one, (d, p).

        Parameters
        ----------
        mode, mechanical : ndarray of int, shape (d,)
        """
        worlds = self.worlds
        written = worlds.mode[mode] * self.world_share * worlds.mechanical[mechanical]
        return np.asarray(written @ worlds.plug.T)

    def untouched(self) -> Vector:
        """Weight of having neither a mechanical nor a running fault, shape (w,)."""
        first = self.tables.mode_of[:, 0]
        terms = zip(self.factors, self.by_plug, strict=True)
        each = [
            share * running[:, 0] * summed[first, 0] for (share, _, _, running), summed in terms
        ]
        by_layer = np.array(each).reshape(len(self.layers), len(self.terms), -1)
        return np.asarray(by_layer.sum(axis=1).ravel())
