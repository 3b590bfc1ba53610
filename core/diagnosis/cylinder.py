"""What one cylinder's findings say of its fault sets, before its neighbours are heard."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

import numpy as np

from core.diagnosis.channels import HEARS_THE_WELL, Likelihoods
from core.diagnosis.evidence import Finding
from core.diagnosis.states import CHAMBER_OIL, WELL_SEAL, Vector
from core.knowledge import knowledge


@dataclass(eq=False)
class CylinderWords:
    """The weight of every fault set of one cylinder, kept in factors so that any can be left out.

    Built by `read`; not changed afterwards.
    """

    tables: Likelihoods
    prior: Vector
    seal_prior: float
    injection_cut: bool
    direct: list[tuple[Finding, Vector]] = field(default_factory=list)
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
        seal = known.fault(WELL_SEAL, "cylinder").prior
        ratio = seal / (1 - seal) * odds.get(WELL_SEAL, 1.0)
        words = cls(
            tables, np.exp(tables.states.log_prior(odds)), ratio / (1 + ratio), injection_cut
        )
        for finding in found:
            face_word = finding.channel.removeprefix("plug/")
            if finding.channel in HEARS_THE_WELL:
                table = tables.well_finding(finding.channel, finding.value)
                words.well.append((finding, table))
            elif finding.channel in known.channels:
                table = tables.finding(finding.channel, finding.value)
                words.direct.append((finding, table))
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

    def weights(self, without: Finding | None = None) -> Vector:
        """Prior times likelihood of every set in every context, shape (contexts, sets).

        Parameters
        ----------
        without : Finding, optional
            Left out, to see what it is worth.
        """
        shape = (len(self.tables.contexts), self.tables.states.size)
        weight = np.broadcast_to(self.prior, shape).copy()
        for finding, table in self.direct:
            if finding is not without:
                weight *= table
        face = self.face_row(without)
        if face is not None:
            faces = self.tables.faces(injection_cut=self.injection_cut)
            weight *= np.tensordot(face, faces, axes=1)
        misses = self.miss_row(without)
        if misses is not None:
            weight *= misses[0] + (misses[1] - misses[0]) * self.tables.misfire()
        if self.well:
            weight *= self.well_rows(without).sum(axis=0)[self._oil_index()]
        return weight

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

    def seal_probability(self, oil_probability: float, without: Finding | None = None) -> float:
        """Posterior of the well seal, given how probable oil from the chamber is."""
        rows = self.well_rows(without)
        given = rows[1] / rows.sum(axis=0)
        return float(given[0] * (1 - oil_probability) + given[1] * oil_probability)

    def _oil_index(self) -> Vector:
        return np.asarray(self.tables.states.active(CHAMBER_OIL).astype(np.intp))
