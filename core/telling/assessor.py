"""One case in the words of the contract."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from statistics import median

from core.assessment import (
    Assessment,
    Bank,
    Because,
    CompressionReport,
    Coverage,
    CylinderAssessment,
    EngineAssessment,
    Fault,
    GasketFault,
    LeakdownReport,
    MayRun,
    Odd,
    SharedFault,
    Warning,
)
from core.caution import Caution
from core.comparison.outliers import odd_ones
from core.evidence.beforehand import known_of_cylinder
from core.evidence.pressures import Evidence, is_reading
from core.explanation.reasons import Said, reasons
from core.explanation.shared_reasons import SharedReasons
from core.hidden.situations import is_fault
from core.judgement.case import Case
from core.judgement.consequences import consequence_probabilities
from core.judgement.material import Material
from core.judgement.rules import rules_version
from core.judgement.shared_faults import rounded
from core.knowledge import knowledge
from core.language import listed, say
from core.quantities import percent
from core.telling.claim import told_claim
from core.telling.money import work
from core.telling.next_test import next_tests
from core.telling.outlook import rivals, unseen
from core.telling.running import may_run
from core.telling.verdict import rest_of, verdict_of

OF_ENGINE = ("engine", "leads")
# What a passed proof has answered: it is no longer warned of.
CLOSED = ("overdue", "history-unknown", "intermittent", "incomplete", "codes-cleared")


@dataclass(frozen=True)
class Reports:
    """What the schools say, and what is shared: made before the case, shown with it."""

    shared: list[SharedFault]
    compression: CompressionReport
    leakdown: LeakdownReport


class Assessor:
    """Puts one case into the contract's words."""

    def __init__(self, case: Case, reports: Reports, why: SharedReasons | None, *, advise: bool):
        self.case = case
        self.reports = reports
        self.why = why
        self.advise = advise
        self.material: Material = case.material
        self.model = case.material.model
        self.document = case.material.document

    def assessment(self) -> Assessment:
        case, shared = self.case, self.reports.shared
        engine_faults, pairs = self._engine_faults(shared), self._pairs()
        odd = odd_ones(dict(self.material.dry))
        cylinders = tuple(
            self._cylinder(number, pairs, tuple(odd.get(number, ())))
            for number in self.material.cylinders
        )
        runs = may_run(case)
        return Assessment(
            engine=EngineAssessment(
                grade=case.grade,
                verdict=verdict_of(case),
                most_suspect=case.suspects,
                faults=engine_faults,
                may_run=runs,
                work=work(case),
                coverage=self._coverage(),
                intermittent=case.intermittent,
                question=case.question,
                claims=tuple(
                    told_claim(one, f"c{at}", case.everyone)
                    for at, one in enumerate(case.claims, start=1)
                ),
                read_again=case.read_again,
                rest=rest_of(case),
            ),
            cylinders=cylinders,
            banks=self._banks(shared),
            pairs=pairs,
            shared=tuple(shared),
            compression=self.reports.compression,
            leakdown=self.reports.leakdown,
            next_tests=tuple(next_tests(case, _forbidding(runs))) if self.advise else (),
            warnings=tuple(
                Warning(one.code, one.path, one.text, one.beside)
                for one in [*self.model.cautions, *self._undecided(cylinders)]
            ),
            rules_version=rules_version(),
        )

    def _engine_faults(self, shared: Sequence[SharedFault]) -> tuple[Fault, ...]:
        """What all cylinders share; crossed leads and the timing of one bank count with it."""
        engine = self.document.engine
        found = []
        for fault in knowledge().of_scope("engine"):
            if not fault.possible_on(engine.cycle, engine.cooling):
                continue
            own = [one for one in shared if one.fault == fault.id and one.scope in OF_ENGINE]
            if fault.id == "valve-timing":
                own += [one for one in shared if one.fault == fault.id and one.scope == "bank"]
            if fault.id == "leads-crossed":
                chance = self.model.shared(fault.id, ("pair",))
                because = self._why_of_leads()
            else:
                chance = sum(one.probability for one in own)
                because = tuple(reason for one in own for reason in one.because)
            found.append(Fault(fault.id, rounded(chance), because))
        return _ranked(found)

    def _why_of_leads(self) -> tuple[Because, ...]:
        if self.why is None:
            return ()
        return tuple(self.why.of_shared(is_fault("leads-crossed", ("engine", "pair"))))

    def _cylinder(
        self, number: int, pairs: tuple[GasketFault, ...], odd: tuple[Odd, ...]
    ) -> CylinderAssessment:
        plug, why = self.material.plugs[number], self._reasons[self.model.index(number)]
        faults = _ranked(
            [
                Fault(name, rounded(chance), tuple(why.get(name, ())))
                for name, chance in self.material.posterior.marginal(number).items()
            ]
        )
        named = {fault for one in self.case.of(number) for fault in one.faults}
        return CylinderAssessment(
            number=number,
            grade=self.case.grades[number],
            plug_action=plug.action,
            plug_reason=plug.reason,
            examined=number in self.material.examined,
            faults=faults,
            consequences={
                name: round(chance, 6)
                for name, chance in consequence_probabilities(
                    self.material.posterior, number
                ).items()
            },
            odd=odd,
            rivals=tuple(rivals(faults, pairs, number, named)),
            unseen=tuple(
                unseen(
                    self.document.cylinder(number),
                    {one.kind for one in self.model.readings_of(number)},
                )
            ),
        )

    def _coverage(self) -> Coverage:
        """How many cylinders were looked at, what is set aside left out."""
        plugs = sum(one.plug.recorded for one in self.document.cylinders)
        lost, dry = self.material.lost, {one.cylinder for one in self.model.readings}
        return Coverage(plugs, len(dry), len(lost), self.document.engine.cylinders)

    @property
    def _reasons(self) -> list[dict[str, list[Because]]]:
        """For each cylinder, what speaks for and against every fault."""
        if self.why is None:
            return [{} for _ in self.material.cylinders]
        if not hasattr(self, "_weighed"):
            model = self.model
            said = [
                Said(
                    model.gauged_of(number),
                    [*model.known, *known_of_cylinder(self.document, number)],
                )
                for number in self.material.cylinders
            ]
            self._weighed = reasons(model.problem, model.solution, said, self._said, model.narrowed)
        return self._weighed

    def _said(self, reading: Evidence) -> str:
        """A reading as a rebuilder would say it: the figure, and how it stands to its peers."""
        if not is_reading(reading):
            return reading.told
        peers = [
            other.pressure_pa
            for other in self.model.readings
            if other.kind == reading.kind and other.cylinder != reading.cylinder
        ]
        if not peers or median(peers) <= 0:
            return reading.told
        share = reading.pressure_pa / median(peers)
        return say("{told}, {share} of its peers", told=reading.told, share=percent(share))

    def _banks(self, shared: Sequence[SharedFault]) -> tuple[Bank, ...]:
        found = []
        for bank in self.model.arranged.banks:
            own = {one.fault: one for one in shared if (one.scope, one.name) == ("bank", bank.name)}
            faults = [
                Fault(fault.id, own[fault.id].probability, own[fault.id].because)
                if fault.id in own
                else Fault(fault.id, 0.0)
                for fault in knowledge().of_scope("bank")
            ]
            found.append(Bank(bank.name, _ranked(faults)))
        return tuple(found)

    def _pairs(self) -> tuple[GasketFault, ...]:
        cylinders = self.material.cylinders
        return tuple(
            GasketFault(
                (cylinders[left], cylinders[right]),
                "head-gasket-between",
                rounded(1 - float(posterior[0])),
                tuple(self.why.of_pair((left, right))) if self.why else (),
            )
            for (left, right), posterior in sorted(self.model.solution.pair.items())
        )

    def _undecided(self, cylinders: Sequence[CylinderAssessment]) -> Iterator[Caution]:
        """Suspects whose faults cannot be told apart by what was recorded."""
        if self.case.proof.state == "passed":
            return
        for one in cylinders:
            if one.number in self.case.suspects and one.rivals:
                text = say(
                    "Cylinder {number}: too little is recorded to tell {rivals} apart.",
                    number=one.number,
                    rivals=listed(one.rivals),
                )
                yield Caution("incomplete", f"/cylinders/{one.number}", text)


def _forbidding(runs: MayRun) -> frozenset[str]:
    """Hazards that forbid running it for a test; a smell of fuel is followed with the nose."""
    forbid = {hazard.hazard for hazard in runs.hazards if hazard.answer == "no"}
    return frozenset(forbid - {"fire"})


def _ranked(faults: list[Fault]) -> tuple[Fault, ...]:
    return tuple(sorted(faults, key=lambda one: (-one.probability, one.fault)))
