"""The findings in words of one cylinder, each with what it says under every fault set."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property, lru_cache

import numpy as np

from core.evidence.channels import HEARS_THE_WELL, Likelihoods, Table
from core.evidence.findings import Finding
from core.hidden.states import WELL_SEAL, Vector
from core.hidden.strands import Lay
from core.inference.epochs import Carried
from core.inference.weights import Layer, Term, Weights
from core.knowledge import knowledge


@dataclass(eq=False)
class CylinderWords:
    """The findings of one cylinder, sorted by what they speak of. Built by `read`; not changed
    after. Equal are those of one kind of engine in which the same was said: they weigh alike."""

    tables: Likelihoods
    odds: Mapping[str, float]
    seal_prior: float
    manner: frozenset[str]
    carried: Carried | None = None
    lays: tuple[Lay, ...] = (Lay(),)
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
        manner: frozenset[str],
        carried: Carried | None = None,
        lays: tuple[Lay, ...] = (Lay(),),
    ) -> CylinderWords:
        """Sort a cylinder's findings by what they speak of; `lays` is one for each strand."""
        known = knowledge()
        seal = carried.seal if carried else known.fault(WELL_SEAL, "cylinder").chance(odds)
        words = cls(tables, odds, seal, manner, carried, lays)
        for finding in found:
            face_word = finding.channel.removeprefix("plug/")
            if finding.channel in HEARS_THE_WELL:
                table = tables.well_finding(finding.channel, finding.value)
                words.well.append((finding, table))
            elif finding.channel in known.channels:
                words.direct.append((finding, tables.finding(finding.channel, finding.value)))
            elif face_word in known.face_words:
                row = known.face_words[face_word][finding.value]
                words.face.append((finding, np.array(row)))
            elif finding.channel in known.heard:
                words.heard.append((finding, known.heard[finding.channel][finding.value]))
        return words

    @property
    def findings(self) -> list[Finding]:
        groups = (self.direct, self.face, self.heard, self.well)
        return [finding for group in groups for finding, _ in group]

    def without(self, channel: str) -> CylinderWords:
        """The same cylinder had one kind of finding never been made."""
        left = [finding for finding in self.findings if finding.channel != channel]
        return self.read(
            self.tables,
            left,
            self.odds,
            manner=self.manner,
            carried=self.carried,
            lays=self.lays,
        )

    @cached_property
    def _key(self) -> tuple[object, ...]:
        said = tuple((finding.channel, finding.value) for finding in self.findings)
        believed = self.carried.key if self.carried else ()
        return self.tables, said, tuple(sorted(self.odds.items())), self.manner, believed, self.lays

    def __eq__(self, other: object) -> bool:
        return isinstance(other, CylinderWords) and self._key == other._key

    def __hash__(self) -> int:
        return hash(self._key)

    def weights(self) -> Weights:
        """Prior times likelihood of every set in every context, layer by layer."""
        tables = self.tables
        mechanical, running, plug = (np.ones(()) for _ in range(3))
        for _, table in self.direct:
            match table.axes:
                case "m" | "um":
                    mechanical = mechanical * table.chance
                case "p" | "up":
                    plug = plug * table.chance
                case "cr":
                    running = running * table.chance
        if self.well:
            mechanical = mechanical * self.well_factor()
        layers = []
        for lay in self.lays:
            m, r, p = self.given(lay.raised(self.odds))
            still_m, still_r, still_p = self.still(lay)
            layers.append(
                Layer(
                    m * mechanical * still_m, p * plug * still_p, r * running * still_r, lay.beside
                )
            )
        worlds = tables.worlds(self.manner)
        return Weights(tables, tuple(layers), worlds, self.world_share(), self._terms())

    @property
    def in_set(self) -> bool:
        """Whether its plug is one of a set that wears together."""
        return any(lay.odds for lay in self.lays)

    def ratios(self, odds: Mapping[str, float]) -> list[tuple[Vector, Vector, Vector]]:
        """In each strand, its priors had other things been known beforehand, over what they are."""
        found = []
        for lay in self.lays:
            both = zip(self.given(lay.raised(odds)), self.given(lay.raised(self.odds)), strict=True)
            m, r, p = (other / own for other, own in both)
            found.append((m, r, p))
        return found

    def still(self, lay: Lay) -> list[Vector]:
        """Chance that each combination of a group brings no complaint that is silent there."""
        silence = dict(lay.silence)
        return [
            np.exp(group.has @ np.log([silence.get(fault, 1.0) for fault in group.faults]))
            for group in self.tables.states.groups
        ]

    def given(self, odds: Mapping[str, float]) -> tuple[Vector, Vector, Vector]:
        """Prior of each combination given what acts on it, with what is known beforehand.

        Shapes (u, m), (c, r) and (u, p). What was carried from an earlier epoch knows already what
        led to what.
        """
        tables, carried = self.tables, self.carried
        if carried is None:
            return tables.given(tuple(sorted(odds.items())))
        rows = (len(tables.modes), len(tables.contexts), len(tables.modes))
        m, r, p = (
            np.tile(carried.prior(group, odds), (count, 1))
            for group, count in zip(tables.states.groups, rows, strict=True)
        )
        return m, r, p

    def well_factor(self, without: Finding | None = None) -> Vector:
        """What the well says by way of oil from the chamber, shape (m,)."""
        return np.asarray(self.well_rows(without).sum(axis=0)[self.tables.states.oily])

    def world_share(self, without: Finding | None = None) -> Vector:
        """What the words say of who wrote the face, shape (k,)."""
        faces = self.tables.worlds(self.manner).faces
        said = np.ones(faces.shape[1])
        for finding, row in self.face:
            if finding is not without:
                said = said * row
        return np.asarray(faces @ said)

    def _terms(self) -> tuple[Term, ...]:
        plain, fires = self.miss_shares()
        if not self.heard:
            return (Term(plain, None),)
        return Term(plain, None), Term(fires, self.tables.fires(self.manner))

    def miss_shares(self, without: Finding | None = None) -> tuple[float, float]:
        """Chance of what was heard as `first + second * (chance that the cylinder fires)`."""
        rows = [row for finding, row in self.heard if finding is not without]
        fires, misses = (math.prod(row[at] for row in rows) for at in (0, 1))
        return misses, fires - misses

    def well_rows(self, without: Finding | None = None) -> Vector:
        """Prior times likelihood of the seal, shape (seal, chamber oil)."""
        rows = np.array([[1 - self.seal_prior] * 2, [self.seal_prior] * 2])
        for finding, table in self.well:
            if finding is not without:
                rows = rows * table
        return rows

    def seal_probability(self, oil: Vector, without: Finding | None = None) -> Vector:
        """Posterior of the well seal, from that of oil in the chamber.

        Findings on the threads may have come from the chamber.
        """
        rows = self.well_rows(without)
        given = rows[1] / rows.sum(axis=0)
        return np.asarray(given[0] * (1 - oil) + given[1] * oil)

    def marginals(self, posterior: Vector, without: Finding | None = None) -> Vector:
        """Probability of each of `names`.

        Parameters
        ----------
        posterior : ndarray, shape (..., combinations)
            Of the combinations of all three groups, one after the other.
        without : Finding, optional
            One about the well, left out.
        """
        states = self.tables.states
        seal = self.seal_probability(posterior @ states.chamber_oil, without)
        return np.concatenate([posterior @ states.has, seal[..., None]], axis=-1)

    @property
    def names(self) -> tuple[str, ...]:
        """The cylinder's faults, the well seal last."""
        return (*self.tables.states.faults, WELL_SEAL)


def weights_of(words: Sequence[CylinderWords]) -> list[Weights]:
    """The weights of every cylinder of an engine, computed once for those that are alike."""
    found = {one: one.weights() for one in dict.fromkeys(words)}
    return [found[one] for one in words]


@lru_cache(maxsize=192)
def kept_weights(words: CylinderWords) -> Weights:
    """The weights of one cylinder, kept while its engine is being recorded.

    An entry changes one cylinder; the others of the engines at work find room here, half a megabyte
    each, and are shared by cylinders of which the same was said.
    """
    return words.weights()
