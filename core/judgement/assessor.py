"""One solved model in the words of the contract."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cached_property
from statistics import median

from msgspec import structs

from core.assessment import (
    Assessment,
    Bank,
    Because,
    Coverage,
    CylinderAssessment,
    EngineAssessment,
    Fault,
    GasketFault,
    MayRun,
    SharedFault,
    Warning,
)
from core.caution import Caution
from core.comparison.outliers import odd_ones
from core.document.job import cylinders_of_job
from core.evidence.beforehand import known_of_cylinder, plug_age
from core.evidence.findings import coded_cylinders
from core.evidence.pressures import Evidence, is_reading
from core.explanation.reasons import Said, reasons
from core.explanation.shared_reasons import SharedReasons
from core.hidden.situations import PARTS, is_fault
from core.hidden.states import LEAKING, WELL_SEAL
from core.inference.model import Model
from core.judgement.compression_report import compression_report, dry_readings, leakdown_report
from core.judgement.consequences import (
    consequence_probabilities,
    grade,
    worst,
)
from core.judgement.degree import slight_leak
from core.judgement.money import work
from core.judgement.next_test import next_tests
from core.judgement.outlook import rivals, unseen
from core.judgement.plugs import disposition, electrodes_rounded, look_of
from core.judgement.rules import rules_version
from core.judgement.running import may_run
from core.judgement.shared_faults import harms, rounded, shared_faults
from core.judgement.verdict import Summary, engine_verdict
from core.knowledge import knowledge
from core.language import listed, say
from core.quantities import percent
from core.vocabulary import Grade, PlugAction

MINOR = ("plug-service", "external-seal")
OF_ENGINE = ("engine", "leads")
# What was seen beside the chamber, or said by what is silent: a fault there shows, soundness not.
BESIDE = ("well/", "boot", "coil", "trouble_code", "plug/type_match")


class Assessor:
    """Puts one solved model into the contract's words."""

    def __init__(
        self, model: Model, *, explain: bool, advise: bool, first: Model | None = None
    ) -> None:
        self.model = model
        self.first = first
        self.explain = explain
        self.advise = advise
        self.document = model.document
        self.dry = dry_readings(model.readings)
        self.odd = odd_ones(self.dry)
        self.why = SharedReasons(model)

    def assessment(self) -> Assessment:
        shared = shared_faults(self.model, self.why if self.explain else None)
        engine_faults, pairs = self._engine_faults(shared), self._pairs()
        cylinders = [self._cylinder(number, pairs) for number in self.model.arranged.cylinders]
        suspects = self._suspects(cylinders)
        intermittent = self._intermittent(cylinders)
        grade = self._engine_grade(cylinders, engine_faults, intermittent=intermittent)
        runs = may_run(self.document, grade, cylinders, shared, pairs)
        if runs.answer == "no" and grade in ("A", "B"):
            grade = "C"
        cylinders = [_at_least_watched(one, runs) for one in cylinders]
        outside = frozenset(one.number for one in cylinders) - cylinders_of_job(self.document)
        summary = Summary(
            cylinders,
            shared,
            pairs,
            suspects,
            self.retest,
            outside,
            asked=frozenset(self.coded),
            leaking={one.number: self._leaking(one.number) for one in cylinders},
            seen=self._seen,
            shown=self._shown,
            wanting=self._wanting(cylinders),
            contradicted=self.contradicted,
            grade=grade,
            intermittent=intermittent,
            forbidden=runs.reason if runs.answer == "no" else "",
            unproved=self.model.second is not None and bool(self.coded) and not suspects,
        )
        return Assessment(
            engine=EngineAssessment(
                grade=grade,
                verdict=engine_verdict(summary),
                most_suspect=tuple(suspects),
                faults=engine_faults,
                may_run=runs,
                work=work(self.model, cylinders, self.document.house_rules),
                coverage=self._coverage(),
                intermittent=intermittent,
            ),
            cylinders=tuple(cylinders),
            banks=self._banks(shared),
            pairs=pairs,
            shared=tuple(shared),
            compression=compression_report(self.document, self.model.expected, self.dry),
            leakdown=leakdown_report(self.document),
            next_tests=tuple(next_tests(self.model, _forbidding(runs))) if self.advise else (),
            warnings=tuple(
                Warning(one.code, one.path, one.text)
                for one in [*self.model.cautions, *_undecided(cylinders, suspects)]
            ),
            rules_version=rules_version(),
        )

    @property
    def retest(self) -> bool:
        """Whether the readings say so much of the test that they cannot grade the engine."""
        rule = knowledge().consequences["grades"]
        level = self.model.level_faults
        # A slipped timing that a properly run test shows is an answer, and no reason for another.
        spoilt = level["test-condition"] >= level["valve-timing"]
        return bool(self.dry) and sum(level.values()) >= rule["retest"] and spoilt

    def _engine_faults(self, shared: list[SharedFault]) -> tuple[Fault, ...]:
        """What all cylinders share; crossed leads and the timing of one bank count with it."""
        engine = self.document.engine
        listed = []
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
            listed.append(Fault(fault.id, rounded(chance), because))
        return _ranked(listed)

    def _why_of_leads(self) -> tuple[Because, ...]:
        if not self.explain:
            return ()
        return tuple(self.why.of_shared(is_fault("leads-crossed", ("engine", "pair"))))

    def _cylinder(self, number: int, pairs: tuple[GasketFault, ...]) -> CylinderAssessment:
        model = self.model
        at = model.index(number)
        words = model.problem.words[at]
        names = words.names
        chances = dict(
            zip(names, words.marginals(model.solution.beliefs[at].posterior), strict=True)
        )
        coil = model.shared_on(number, by=("coil",))
        chances["ignition-weak"] += coil * (1 - chances["ignition-weak"])
        why = self._reasons[at]
        record = self.document.cylinder(number)
        plug = record.plug
        age = plug_age(self.document, number)
        band = next((f.value for f in words.findings if f.channel == "gap_ratio"), None)
        consequences = consequence_probabilities(
            model.problem,
            model.solution,
            at,
            chances[WELL_SEAL],
            model.shared_on(number, by=PARTS),
            model.shared_on(number),
        )
        must_stop = plug.ground_electrode == "missing"
        policy = self.document.house_rules.plugs or "replace-when-due"
        action, reason = disposition(
            plug,
            chances,
            band,
            overdue=age is not None and age > 1,
            unknown_age=age is None
            and plug.distance is None
            and self.document.inspection.history == "unknown",
            policy=policy,
        )
        faults = _ranked(
            [Fault(name, rounded(chances[name]), tuple(why.get(name, ()))) for name in names]
        )
        return CylinderAssessment(
            number=number,
            grade=self._grade(number, consequences, action, must_stop=must_stop),
            plug_action=action,
            plug_reason=reason,
            faults=faults,
            consequences={name: round(chance, 6) for name, chance in consequences.items()},
            odd=tuple(self.odd.get(number, ())),
            rivals=tuple(rivals(faults, pairs, number)),
            unseen=tuple(unseen(record, {one.kind for one in model.readings_of(number)})),
        )

    def _grade(
        self,
        number: int,
        consequences: dict[str, float],
        action: PlugAction,
        *,
        must_stop: bool,
    ) -> Grade:
        if not self._recorded(number):
            return "C" if number in self.contradicted else "U"
        alone = len(self.model.arranged.cylinders) == 1
        asked = number in self.coded or (alone and bool(self.document.inspection.complaints))
        at = self.model.index(number)
        # Only what would be called a repair can be a slight one.
        repair = consequences["repair"] >= knowledge().consequences["grades"]["repair"]
        slight = slight_leak(self.model, number, self.first) if repair else 0.0
        harm = self._harm(number)
        given = grade(consequences, harm, must_stop=must_stop, asked=asked, slight=slight)
        only_pressures = not self.model.problem.words[at].findings
        if self.retest and only_pressures and given in ("A", "B"):
            return "U"
        if given == "A" and not self._examined(number):
            return "C" if number in self.contradicted else "U"
        # It did misfire; that today's tests do not show it makes it intermittent, not sound.
        wants = self._look(number) != "sound" or self._rounded(number)
        if given == "A" and action not in ("keep", "not-seen") and wants:
            given = "B"  # Its plug wants something, whatever made it so.
        if given in ("A", "B") and number in self.contradicted:
            return "C"
        return "C" if given == "A" and number in self.coded else given

    @cached_property
    def contradicted(self) -> frozenset[int]:
        """Cylinders of which two tests contradict each other."""
        return frozenset(
            one.cylinder
            for one in self.model.cautions
            if one.code == "contradiction" and one.path.startswith("/tests/")
        )

    def _wanting(self, cylinders: list[CylinderAssessment]) -> frozenset[int]:
        """Cylinders whose plug wants something by its own look, where no fault says it already."""
        service = knowledge().consequences["grades"]["service"]
        return frozenset(
            one.number
            for one in cylinders
            if (self._look(one.number) not in ("sound", "came-loose") or self._rounded(one.number))
            and one.plug_action not in ("keep", "not-seen")
            and one.consequences["plug-service"] < service
        )

    def _rounded(self, number: int) -> bool:
        return electrodes_rounded(self.document.cylinder(number).plug)

    def _look(self, number: int) -> str:
        """What its plug's own look is."""
        words = self.model.problem.words[self.model.index(number)]
        band = next((f.value for f in words.findings if f.channel == "gap_ratio"), None)
        return look_of(self.document.cylinder(number).plug, band)

    @cached_property
    def coded(self) -> dict[int, str]:
        """Cylinders that a misfire code names, with the code."""
        return coded_cylinders(self.document)

    def _intermittent(self, cylinders: list[CylinderAssessment]) -> bool:
        """Whether something came and is not there today; after the work it is to be proved."""
        if self.model.second is not None:
            return False
        job = self.document.inspection
        came = bool(job.complaints or job.trouble_codes)
        quiet = [
            one for one in cylinders
            if one.number in self.coded and one.consequences["repair"] < knowledge().suspected_from
            and one.faults[0].probability < knowledge().consequences["grades"]["service"]
        ]  # fmt: skip
        return bool((job.fine_today and came) or quiet)

    def _leaking(self, number: int) -> float:
        """Chance that a cylinder loses pressure by itself, whatever the way."""
        at = self.model.index(number)
        mechanical = self.model.problem.words[at].tables.states.mechanical
        return float(self.model.solution.beliefs[at].mechanical[mechanical.active(LEAKING)].sum())

    @cached_property
    def _seen(self) -> dict[int, tuple[str, ...]]:
        """What was seen broken, missing or leaking, by cylinder, in words."""
        table = knowledge().judgement["seen"]
        found: dict[int, tuple[str, ...]] = {}
        for one in self.model.findings:
            words = table.get(f"{one.channel}={one.value}")
            if words:
                found[one.cylinder] = (*found.get(one.cylinder, ()), say(words))
        return found

    @cached_property
    def _shown(self) -> dict[int, frozenset[str]]:
        """Faults that were seen themselves, by cylinder."""
        table = dict(knowledge().judgement["seen"]["shows"])
        found: dict[int, frozenset[str]] = {}
        for one in self.model.findings:
            fault = table.get(f"{one.channel}={one.value}")
            if fault:
                found[one.cylinder] = found.get(one.cylinder, frozenset()) | {fault}
        return found

    def _coverage(self) -> Coverage:
        """How many cylinders were looked at."""
        dry = {reading.cylinder for reading in self.model.readings}
        plugs = sum(one.plug.recorded for one in self.document.cylinders)
        lost = {
            reading.cylinder
            for test in self.document.tests.leakdown
            for reading in test.readings
            if reading.held is not None or reading.percent is not None
        }
        return Coverage(plugs, len(dry), len(lost), self.document.engine.cylinders)

    def _harm(self, number: int) -> float:
        """Chance that something shared acts on a cylinder that ruins pistons."""
        return sum(
            self.model.shared(one.fault, (one.where,), one.name)
            for one in self.model.parts
            if number in one.cylinders and harms(one.fault)
        )

    def _examined(self, number: int) -> bool:
        """Whether its plug, a pressure or a running test was recorded: only so is it sound."""
        words = self.model.problem.words[self.model.index(number)]
        told = (one for one in words.findings if not one.channel.startswith(BESIDE))
        return any(told) or bool(self.model.gauged_of(number)) or self._known_before(number)

    def _known_before(self, number: int) -> bool:
        """Whether it was examined as it was found, and this is the engine as it was left."""
        return self.model.second is not None and number in self.model.second.recorded

    def _recorded(self, number: int) -> bool:
        if self._known_before(number):
            return True
        words = self.model.problem.words[self.model.index(number)]
        return bool(words.findings) or bool(self.model.gauged_of(number))

    @cached_property
    def _reasons(self) -> list[dict[str, list[Because]]]:
        """For each cylinder, what speaks for and against every fault."""
        model = self.model
        cylinders = model.arranged.cylinders
        if not self.explain:
            return [{} for _ in cylinders]
        said = [
            Said(
                model.gauged_of(number),
                [*model.known, *known_of_cylinder(self.document, number)],
            )
            for number in cylinders
        ]
        return reasons(model.problem, model.solution, said, self._said, model.narrowed)

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

    def _suspects(self, cylinders: list[CylinderAssessment]) -> list[int]:
        """Cylinders worth suspecting, the most suspect first."""

        def suspicion(one: CylinderAssessment) -> float:
            chances = one.consequences
            return chances["repair"] + 0.1 * max(chances[name] for name in MINOR)

        rule = knowledge().consequences["grades"]
        suspected = [
            one
            for one in cylinders
            if self._recorded(one.number)
            and (
                one.consequences["repair"] >= knowledge().suspected_from
                or max(one.consequences[name] for name in MINOR) >= rule["service"]
            )
        ]
        affected = self._affected()
        suspected += [one for one in cylinders if one.number in affected and one not in suspected]
        suspected.sort(key=lambda one: (-suspicion(one), one.number))
        return [one.number for one in suspected]

    def _affected(self) -> set[int]:
        """Cylinders of a bank or carburettor that is itself a suspect."""
        return {
            cylinder
            for cylinder in self.model.arranged.cylinders
            if self.model.shared_on(cylinder, by=PARTS) >= knowledge().suspected_from
        }

    def _engine_grade(
        self,
        cylinders: list[CylinderAssessment],
        engine_faults: tuple[Fault, ...],
        *,
        intermittent: bool,
    ) -> Grade:
        if self.retest:
            return "U"
        grades = [one.grade for one in cylinders]
        if not any(given != "U" for given in grades) and not self.document.distributor.recorded:
            return "U"
        rule, job = knowledge().consequences["grades"], self.document.inspection
        repair = sum(one.probability for one in engine_faults if one.fault != "test-condition")
        if repair >= rule["repair"]:
            grades.append("D")
        elif repair >= rule["asked" if job.complaints else "watch"] or intermittent:
            grades.append("C")
        return worst(grades)

    def _banks(self, shared: list[SharedFault]) -> tuple[Bank, ...]:
        listed = []
        for bank in self.model.arranged.banks:
            own = {one.fault: one for one in shared if (one.scope, one.name) == ("bank", bank.name)}
            faults = [
                Fault(fault.id, own[fault.id].probability, own[fault.id].because)
                if fault.id in own
                else Fault(fault.id, 0.0)
                for fault in knowledge().of_scope("bank")
            ]
            listed.append(Bank(bank.name, _ranked(faults)))
        return tuple(listed)

    def _pairs(self) -> tuple[GasketFault, ...]:
        cylinders = self.model.arranged.cylinders
        return tuple(
            GasketFault(
                (cylinders[left], cylinders[right]),
                "head-gasket-between",
                rounded(1 - float(posterior[0])),
                tuple(self.why.of_pair((left, right))) if self.explain else (),
            )
            for (left, right), posterior in sorted(self.model.solution.pair.items())
        )


def _forbidding(runs: MayRun) -> frozenset[str]:
    """Hazards that forbid running it for a test; a smell of fuel is followed with the nose."""
    forbid = {hazard.hazard for hazard in runs.hazards if hazard.answer == "no"}
    return frozenset(forbid - {"fire"})


def _at_least_watched(one: CylinderAssessment, runs: MayRun) -> CylinderAssessment:
    """No cylinder is called sound or serviceable beside a hazard that forbids running it."""
    forbidding = [hazard for hazard in runs.hazards if hazard.answer == "no"]
    own = any(one.number in hazard.cylinders for hazard in forbidding)
    return structs.replace(one, grade="C") if own and one.grade in ("A", "B") else one


def _undecided(cylinders: list[CylinderAssessment], suspects: list[int]) -> Iterator[Caution]:
    """Suspects whose faults cannot be told apart by what was recorded."""
    for one in cylinders:
        if one.number in suspects and one.rivals:
            text = say(
                "Cylinder {number}: too little is recorded to tell {rivals} apart.",
                number=one.number,
                rivals=listed(one.rivals),
            )
            yield Caution("incomplete", f"/cylinders/{one.number}", text)


def _ranked(faults: list[Fault]) -> tuple[Fault, ...]:
    return tuple(sorted(faults, key=lambda one: (-one.probability, one.fault)))
