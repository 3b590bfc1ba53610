"""What a case is made from: one posterior, what was seen, who was examined, who is asked about."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from core.comparison.leakdown_schools import lost_percent
from core.document.job import cylinders_of_job
from core.document.records import Document
from core.evidence.findings import coded_cylinders
from core.inference.model import Model
from core.inference.posterior import Posterior
from core.judgement.claims import stands
from core.judgement.compression_report import display_unit, dry_readings
from core.judgement.plugs import Disposition, dispositions
from core.judgement.seen import Sight, by_cylinder, sights
from core.judgement.shared_faults import at_its_place, shared_faults

# What was seen beside the chamber, or said by what is silent: a fault there shows, soundness not.
BESIDE = ("well/", "boot", "coil", "trouble_code", "plug/type_match")
SAID_BY_CODE = "trouble_code"


@dataclass(frozen=True, eq=False)
class Material:
    """One solved model and the record it is of.

    Attributes
    ----------
    first : Model or None
        Of the engine as it was found, where `model` is of the engine as left.
    """

    model: Model
    posterior: Posterior
    first: Model | None = None

    @property
    def document(self) -> Document:
        return self.model.document

    @property
    def cylinders(self) -> tuple[int, ...]:
        return self.model.arranged.cylinders

    @cached_property
    def coded(self) -> Mapping[int, str]:
        """Cylinders that a misfire code names, with the code."""
        return coded_cylinders(self.document)

    @cached_property
    def asked(self) -> frozenset[int]:
        """Cylinders that the question is about: coded ones; of a single, whatever is complained."""
        alone = len(self.cylinders) == 1 and self.document.inspection.complaints
        return frozenset(self.coded) | (frozenset(self.cylinders) if alone else frozenset())

    @cached_property
    def job(self) -> frozenset[int]:
        return cylinders_of_job(self.document)

    @cached_property
    def examined(self) -> frozenset[int]:
        """Cylinders of which a plug, a pressure or a running test was recorded."""
        return frozenset(number for number in self.cylinders if self._examined(number))

    def _examined(self, number: int) -> bool:
        if self.model.second is not None and number in self.model.second.examined:
            return True
        words = self.model.problem.words[self.model.index(number)]
        told = (one for one in words.findings if not one.channel.startswith(BESIDE))
        return any(told) or bool(self.model.gauged_of(number))

    @cached_property
    def told(self) -> frozenset[int]:
        """Cylinders of which anything was found by whoever looked, beside what a code says."""
        if self.model.second is not None:
            return self.examined | self.model.second.recorded
        return self.examined | frozenset(
            number
            for number in self.cylinders
            if any(
                one.channel != SAID_BY_CODE
                for one in self.model.problem.words[self.model.index(number)].findings
            )
        )

    @cached_property
    def speaks_for(self) -> list[tuple[str, float]]:
        """What complaints and codes alone make likely of what cylinders share, with its chance."""
        likely = (one for one in shared_faults(self.model, None) if stands(one.probability))
        return [(at_its_place(one), one.probability) for one in likely]

    @cached_property
    def seen(self) -> Mapping[int, list[Sight]]:
        """What was seen broken, missing or leaking."""
        return by_cylinder(sights(self.document))

    @cached_property
    def plugs(self) -> Mapping[int, Disposition]:
        """What becomes of each plug."""
        return dispositions(self.model, self.posterior)

    @cached_property
    def dry(self) -> Mapping[int, float]:
        return dry_readings(self.model.readings)

    @cached_property
    def lost(self) -> Mapping[int, float]:
        return lost_percent(self.document, self.model.doubted)

    @cached_property
    def unit(self) -> str:
        return display_unit(self.document)
