"""What one cylinder's findings say of its fault sets, before its neighbours are heard."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace

import numpy as np

from core.diagnosis.channels import HEARS_THE_WELL, Likelihoods, Table
from core.diagnosis.evidence import Finding
from core.diagnosis.states import CHAMBER_OIL, WELL_SEAL, Group, Vector
from core.knowledge import knowledge


@dataclass(frozen=True, eq=False)
class Weights:
    """Prior times likelihood of a cylinder's fault sets, factored.

    The weight of (c, m, r, p) is the sum over the terms of
    `running[c, r] * mixed[mode_of[c, r], m, p]`.

    Attributes
    ----------
    running : list of ndarray, shape (c, r)
    mixed : list of ndarray, shape (u, m, p)
    """

    running: list[Vector]
    mixed: list[Vector]
    tables: Likelihoods

    def by_mechanical(self) -> Vector:
        """Summed over running and plug, shape (c, m)."""
        mode_of = self.tables.mode_of
        total = np.zeros((len(mode_of), self.mixed[0].shape[1]))
        for running, mixed in zip(self.running, self.mixed, strict=True):
            total += self._by_mode(running) @ mixed.sum(axis=2)
        return total

    def _by_mode(self, running: Vector) -> Vector:
        """Running weights gathered by mode, shape (c, u)."""
        shape = (len(running), len(self.tables.modes))
        flat = np.bincount(self.tables.mode_slots, running.ravel(), shape[0] * shape[1])
        return np.asarray(flat, dtype=np.float64).reshape(shape)

    def divided(self, table: Table) -> Weights:
        """The same weights without one finding's table."""
        match table.axes:
            case "cr":
                return replace(self, running=[one / table.chance for one in self.running])
            case "m":
                chance = table.chance[:, None]
            case "p":
                chance = table.chance
            case "um":
                chance = table.chance[:, :, None]
            case "up":
                chance = table.chance[:, None, :]
        return replace(self, mixed=[one / chance for one in self.mixed])

    def posterior(self, response: Vector) -> Posterior:
        """Posterior marginals, given what the rest says of (c, m)."""
        plug = np.zeros(self.mixed[0].shape[2])
        mechanical = np.zeros(self.mixed[0].shape[1])
        running = np.zeros(self.running[0].shape[1])
        rows = np.arange(len(response))[:, None]
        for own, mixed in zip(self.running, self.mixed, strict=True):
            heard = self._by_mode(own).T @ response  # u, m
            plug += heard.ravel() @ mixed.reshape(-1, mixed.shape[2])
            summed = mixed.sum(axis=2)
            mechanical += (heard * summed).sum(axis=0)
            by_union = (summed @ response.T)[self.tables.mode_of, rows] * own
            running += by_union.sum(axis=0)
        total = plug.sum()
        return Posterior(mechanical / total, running / total, plug / total)

    def untouched(self) -> Vector:
        """Weight of having neither a mechanical nor a running fault, shape (c,)."""
        first = self.tables.mode_of[:, 0]
        terms = zip(self.running, self.mixed, strict=True)
        return np.asarray(sum(own[:, 0] * mixed[first, 0].sum(axis=1) for own, mixed in terms))

    def sets(self, response: Vector) -> Vector:
        """Posterior of every fault set, contexts summed out, shape (m, r, p)."""
        total = 0.0
        for own, mixed in zip(self.running, self.mixed, strict=True):
            chosen = mixed[self.tables.mode_of]  # c, r, m, p
            total = total + np.einsum("crmp,cr,cm->mrp", chosen, own, response)
        return np.asarray(total / np.sum(total))


@dataclass(frozen=True, eq=False)
class Posterior:
    """Normalised marginals of a cylinder's three groups."""

    mechanical: Vector
    running: Vector
    plug: Vector


@dataclass(eq=False)
class CylinderWords:
    """The findings of one cylinder with what each is worth. Built by `read`; not changed after."""

    tables: Likelihoods
    odds: Mapping[str, float]
    seal_prior: float
    injection_cut: bool
    direct: list[tuple[Finding, Table]] = field(default_factory=list)
    face: list[tuple[Finding, Vector]] = field(default_factory=list)
    heard: list[tuple[Finding, tuple[float, float]]] = field(default_factory=list)
    well: list[tuple[Finding, Vector]] = field(default_factory=list)

    @classmethod
    def read(
        cls,
        tables: Likelihoods,
        found: Iterable[Finding],
        odds: Mapping[str, float],
        *,
        injection_cut: bool,
    ) -> CylinderWords:
        """Sort a cylinder's findings by what they speak of."""
        known = knowledge()
        seal = known.fault(WELL_SEAL, "cylinder").chance(odds)
        words = cls(tables, odds, seal, injection_cut)
        for finding in found:
            face_word = finding.channel.removeprefix("plug/")
            if finding.channel in HEARS_THE_WELL:
                table = tables.well_finding(finding.channel, finding.value)
                words.well.append((finding, table))
            elif finding.channel in known.channels:
                words.direct.append((finding, tables.finding(finding.channel, finding.value)))
            elif face_word in known.face_words:
                row = np.array(known.face_words[face_word][finding.value])
                words.face.append((finding, row))
            elif finding.channel in known.heard:
                words.heard.append((finding, known.heard[finding.channel][finding.value]))
        return words

    @property
    def findings(self) -> list[Finding]:
        groups = (self.direct, self.face, self.heard, self.well)
        return [finding for group in groups for finding, _ in group]

    def weights(self) -> Weights:
        """Prior times likelihood of every set in every context."""
        states = self.tables.states
        factors = {
            "m": self._prior(states.mechanical),
            "p": self._prior(states.plug),
            "cr": np.broadcast_to(self._prior(states.running), self.tables.mode_of.shape),
        }
        mixed = self.tables.coupled
        for _, table in self.direct:
            if table.axes == "um":
                mixed = mixed * table.chance[:, :, None]
            elif table.axes == "up":
                mixed = mixed * table.chance[:, None, :]
            else:
                factors[table.axes] = factors[table.axes] * table.chance
        if self.well:
            factors["m"] = factors["m"] * self._well_factor(None)
        if self.face:
            mixed = mixed * self._face_factor(None)
        mixed = mixed * (factors["m"][:, None] * factors["p"])
        return self._with_misses(factors["cr"], mixed, None)

    def weights_without(self, finding: Finding, whole: Weights) -> Weights:
        """What `weights` gives with one finding left out, from what it gives with all.

        Parameters
        ----------
        finding : Finding
            One of this cylinder's.
        whole : Weights
            What `weights` returned.
        """
        for own, table in self.direct:
            if own is finding:
                return whole.divided(table)
        if any(own is finding for own, _ in self.well):
            ratio = self._well_factor(finding) / self._well_factor(None)
            return replace(whole, mixed=[one * ratio[:, None] for one in whole.mixed])
        if any(own is finding for own, _ in self.face):
            change = self._face_factor(finding) / self._face_factor(None)
            return replace(whole, mixed=[one * change for one in whole.mixed])
        misses = self.miss_row()
        assert misses is not None
        return self._with_misses(whole.running[0] / misses[1], whole.mixed[0], finding)

    def _prior(self, group: Group) -> Vector:
        return group.prior(tuple(sorted(self.odds.items())))

    def _well_factor(self, without: Finding | None) -> Vector:
        """What the well says by way of oil from the chamber, shape (m,)."""
        oil = self.tables.states.mechanical.active(CHAMBER_OIL).astype(np.intp)
        return np.asarray(self.well_rows(without).sum(axis=0)[oil])

    def _face_factor(self, without: Finding | None) -> Vector:
        """What the words say by way of the face, shape (u, m, p); ones where nothing was said."""
        row = self.face_row(without)
        faces = self.tables.faces(injection_cut=self.injection_cut)
        if row is None:
            return np.ones(faces.shape[1:])
        return np.asarray(row @ faces.reshape(len(row), -1)).reshape(faces.shape[1:])

    def _with_misses(self, running: Vector, mixed: Vector, without: Finding | None) -> Weights:
        """A miss is one minus a product over the groups: two factored terms."""
        misses = self.miss_row(without)
        if misses is None:
            return Weights([running], [mixed], self.tables)
        fires_m, fires_cr, fires_p = self.tables.fires
        fired = mixed * (fires_m[:, None] * fires_p)
        return Weights(
            [running * misses[1], running * fires_cr * (misses[0] - misses[1])],
            [mixed, fired],
            self.tables,
        )

    def face_row(self, without: Finding | None = None) -> Vector | None:
        """What the words say of each face; None where nothing was said."""
        rows = [row for finding, row in self.face if finding is not without]
        return np.asarray(np.prod(rows, axis=0)) if rows else None

    def miss_row(self, without: Finding | None = None) -> tuple[float, float] | None:
        """Chance of what was heard of a cylinder that fires, and of one that misses."""
        rows = [row for finding, row in self.heard if finding is not without]
        if not rows:
            return None
        return float(np.prod([row[0] for row in rows])), float(np.prod([row[1] for row in rows]))

    def well_rows(self, without: Finding | None = None) -> Vector:
        """Prior times likelihood of the seal, shape (seal, chamber oil)."""
        rows = np.array([[1 - self.seal_prior] * 2, [self.seal_prior] * 2])
        for finding, table in self.well:
            if finding is not without:
                rows = rows * table
        return rows

    def seal_probability(self, posterior: Posterior, without: Finding | None = None) -> float:
        """Posterior of the well seal; findings on the threads may have come from the chamber."""
        oily = self.tables.states.mechanical.active(CHAMBER_OIL)
        oil = float(posterior.mechanical[oily].sum())
        rows = self.well_rows(without)
        given = rows[1] / rows.sum(axis=0)
        return float(given[0] * (1 - oil) + given[1] * oil)

    def marginals(self, posterior: Posterior, without: Finding | None = None) -> Vector:
        """Probability of each of `names`."""
        states = self.tables.states
        return np.concatenate(
            [
                posterior.mechanical @ states.mechanical.has,
                posterior.running @ states.running.has,
                posterior.plug @ states.plug.has,
                [self.seal_probability(posterior, without)],
            ]
        )

    @property
    def names(self) -> tuple[str, ...]:
        """The cylinder's faults, the well seal last."""
        return (*self.tables.states.faults, WELL_SEAL)
