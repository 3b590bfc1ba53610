"""The assessment of one document, as the contract spells it."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from functools import cache, cached_property
from importlib import resources
from statistics import median
from typing import Any

from core.caution import Caution
from core.comparison.outliers import odd_ones
from core.diagnosis.beforehand import known_of_cylinder, plug_age
from core.diagnosis.compression_report import compression_report, dry_readings, leakdown_report
from core.diagnosis.consequences import (
    consequence_probabilities,
    grade,
    plug_action,
    worst,
)
from core.diagnosis.explanation import Reason, Said, reasons
from core.diagnosis.leakdowns import Escape, Leakdown
from core.diagnosis.model import Model
from core.diagnosis.next_test import next_tests
from core.diagnosis.outlook import may_run, rivals, unseen, work
from core.diagnosis.pressures import Evidence
from core.diagnosis.relatives import Relative
from core.diagnosis.shared_reasons import SharedReasons
from core.diagnosis.situations import PARTS, is_fault
from core.diagnosis.states import WELL_SEAL
from core.diagnosis.verdict import Summary, engine_verdict
from core.document.job import cylinders_of_job
from core.document.records import Document
from core.knowledge import Fault, knowledge
from core.knowledge.tables import FILES
from core.quantities import percent

FORMAT = "fiacre-assessment"
VERSION = 1
MODEL = 3  # Raised when the same tables are weighed otherwise than before.


@cache
def rules_version() -> str:
    """Names the knowledge an assessment was made with: a digest of its tables."""
    digest = hashlib.sha256()
    for name in FILES:
        digest.update((resources.files("core.knowledge") / f"{name}.toml").read_bytes())
    return f"{MODEL}-{digest.hexdigest()[:12]}"


def assess(
    document: dict[str, Any], *, explain: bool = True, advise: bool = True
) -> dict[str, Any]:
    """Assess a checked document.

    Parameters
    ----------
    document : dict
        As `read_document` or `check_document` returns it.
    explain : bool
        Whether to weigh every finding; without it `because` is empty.
    advise : bool
        Whether to look for the next best test; without it `next_tests` is empty.

    Returns
    -------
    dict
        The assessment of the contract. The same document gives the same assessment.
    """
    model = Model.of(Document.of(document))
    return Assessor(model, explain=explain, advise=advise).assessment()


# What was seen beside the chamber, or said by what is silent: a fault there shows, soundness not.
BESIDE = ("well/", "boot", "coil", "trouble_code", "plug/type_match")


class Assessor:
    """Puts one solved model into the contract's words."""

    def __init__(self, model: Model, *, explain: bool, advise: bool) -> None:
        self.model = model
        self.explain = explain
        self.advise = advise
        self.document = model.document
        self.dry = dry_readings(model.readings)
        self.odd = odd_ones(self.dry)
        self.why = SharedReasons(model)

    def assessment(self) -> dict[str, Any]:
        engine_faults = self._engine_faults()
        cylinders = [self._cylinder(number) for number in self.model.arranged.cylinders]
        pairs = self._pairs()
        for one in cylinders:
            one["rivals"] = rivals(one["faults"], pairs, one["number"])
        suspects = self._suspects(cylinders)
        grade = self._engine_grade(cylinders, engine_faults)
        banks = self._banks()
        outside = frozenset(one["number"] for one in cylinders) - cylinders_of_job(self.document)
        summary = Summary(cylinders, engine_faults, banks, pairs, suspects, self.retest, outside)
        return {
            "format": FORMAT,
            "version": VERSION,
            "engine": {
                "grade": grade,
                "verdict": engine_verdict(summary),
                "most_suspect": suspects,
                "faults": engine_faults,
                "may_run": may_run(grade, cylinders),
                "work": work(cylinders, engine_faults, self.document.house_rules),
            },
            "cylinders": cylinders,
            "banks": banks,
            "pairs": pairs,
            "compression": compression_report(self.document, self.model.expected, self.dry),
            "leakdown": leakdown_report(self.document),
            "next_tests": next_tests(self.model) if self.advise else [],
            "warnings": [
                {"code": one.code, "path": one.path, "text": one.text}
                for one in [*self.model.cautions, *_undecided(cylinders, suspects)]
            ],
            "rules_version": rules_version(),
        }

    @property
    def retest(self) -> bool:
        """Whether the readings say so much of the test that they cannot grade the engine."""
        rule = knowledge().consequences["grades"]
        return bool(self.dry) and sum(self.model.level_faults.values()) >= rule["retest"]

    def _engine_faults(self) -> list[dict[str, Any]]:
        model = self.model
        alone = len(model.arranged.cylinders) == 1
        listed = []
        for fault in knowledge().of_scope("engine"):
            if not fault.possible_on(self.document.engine.cycle, self.document.engine.cooling):
                continue
            if fault.group == "level":
                chance = model.level_faults[fault.id] + model.shared(fault.id, ("bank",))
            elif alone and fault.group in ("mixture", "ignition", "heat"):
                chance = self._alone(fault.id)
            else:
                chance = model.shared(fault.id, ("engine", "pair"))
            listed.append(self._fault(fault.id, chance, self._shared_because(fault)))
        return _ranked(listed)

    def _shared_because(self, fault: Fault) -> list[Reason]:
        if not self.explain:
            return []
        if fault.group == "level":
            of_banks = [r for bank in self.model.shifts for r in self.why.of_bank_timing(bank.name)]
            more = of_banks if fault.id == "valve-timing" else []
            return [*self.why.of_level(fault.id), *more]
        return self.why.of_shared(is_fault(fault.id, ("engine", "pair")))

    def _alone(self, fault: str) -> float:
        """On one cylinder, "this cylinder" and "all of them" are one and the same."""
        own = {"mixture-rich": "fuel-rich", "mixture-lean": "fuel-lean"}.get(fault, fault)
        words = self.model.problem.words[0]
        if own not in words.names:
            return self.model.shared(fault, ("engine", "pair"))
        chances = words.marginals(self.model.solution.beliefs[0].posterior)
        return float(chances[words.names.index(own)])

    def _cylinder(self, number: int) -> dict[str, Any]:
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
        return {
            "number": number,
            "grade": self._grade(number, consequences, must_stop=must_stop),
            "plug_action": plug_action(
                plug,
                chances,
                band,
                overdue=age is not None and age > 1,
                policy=self.document.house_rules.plugs or "replace-when-due",
            ),
            "faults": _ranked(
                [self._fault(name, chances[name], why.get(name, [])) for name in names]
            ),
            "consequences": {name: round(chance, 6) for name, chance in consequences.items()},
            "odd": self.odd.get(number, []),
            "unseen": unseen(record, {one.kind for one in model.readings_of(number)}),
        }

    def _grade(self, number: int, consequences: dict[str, float], *, must_stop: bool) -> str:
        if not self._recorded(number):
            return "U"
        given = grade(consequences, must_stop=must_stop)
        at = self.model.index(number)
        only_pressures = not self.model.problem.words[at].findings
        if self.retest and only_pressures and given in ("A", "B"):
            return "U"
        if given == "A" and not self._examined(number):
            return "U"
        return given

    def _examined(self, number: int) -> bool:
        """Whether its plug, a pressure or a running test was recorded: only so is it sound."""
        words = self.model.problem.words[self.model.index(number)]
        told = (one for one in words.findings if not one.channel.startswith(BESIDE))
        return any(told) or bool(self.model.gauged_of(number))

    def _recorded(self, number: int) -> bool:
        words = self.model.problem.words[self.model.index(number)]
        return bool(words.findings) or bool(self.model.gauged_of(number))

    @cached_property
    def _reasons(self) -> list[dict[str, list[Reason]]]:
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
        if isinstance(reading, Escape):
            return reading.spoken
        if isinstance(reading, Relative):
            return f"cranking trace: {reading.spoken}"
        if isinstance(reading, Leakdown):
            return f"leak-down: {reading.spoken}"
        name = "compression" if reading.kind == "dry" else "wet compression"
        peers = [
            other.pressure_pa
            for other in self.model.readings
            if other.kind == reading.kind and other.cylinder != reading.cylinder
        ]
        if not peers or median(peers) <= 0:
            return f"{name} {reading.spoken}"
        share = reading.pressure_pa / median(peers)
        return f"{name} {reading.spoken}, {percent(share)} of its peers"

    def _fault(self, name: str, chance: float, because: list[Reason]) -> dict[str, Any]:
        return {"fault": name, "probability": _rounded(chance), "because": because}

    def _suspects(self, cylinders: list[dict[str, Any]]) -> list[int]:
        """Cylinders worth suspecting, the most suspect first."""

        def suspicion(one: dict[str, Any]) -> float:
            chances = one["consequences"]
            minor = max(chances["plug-service"], chances["external-seal"])
            return float(chances["repair"] + 0.1 * minor)

        rule = knowledge().consequences["grades"]
        suspected = [
            one
            for one in cylinders
            if self._recorded(one["number"])
            and (
                one["consequences"]["repair"] >= knowledge().suspected_from
                or max(one["consequences"][c] for c in ("plug-service", "external-seal"))
                >= rule["service"]
            )
        ]
        banks = self._affected()
        suspected += [one for one in cylinders if one["number"] in banks and one not in suspected]
        suspected.sort(key=lambda one: (-suspicion(one), one["number"]))
        return [one["number"] for one in suspected]

    def _affected(self) -> set[int]:
        """Cylinders of a bank or carburettor that is itself a suspect."""
        return {
            cylinder
            for cylinder in self.model.arranged.cylinders
            if self.model.shared_on(cylinder, by=PARTS) >= knowledge().suspected_from
        }

    def _engine_grade(
        self, cylinders: list[dict[str, Any]], engine_faults: list[dict[str, Any]]
    ) -> str:
        if self.retest:
            return "U"
        grades = [one["grade"] for one in cylinders]
        if not any(given != "U" for given in grades):
            return "U"
        rule = knowledge().consequences["grades"]
        repair = sum(
            one["probability"] for one in engine_faults if one["fault"] != "test-condition"
        )
        if repair >= rule["repair"]:
            grades.append("D")
        elif repair >= rule["watch"]:
            grades.append("C")
        return worst(grades)

    def _banks(self) -> list[dict[str, Any]]:
        listed = []
        for bank in self.model.arranged.banks:
            faults = [
                self._fault(
                    fault.id,
                    self.model.shared(fault.id, ("bank",), bank.name),
                    self._bank_because(fault, bank.name),
                )
                for fault in knowledge().of_scope("bank")
            ]
            listed.append({"name": bank.name, "faults": _ranked(faults)})
        return listed

    def _bank_because(self, fault: Fault, bank: str) -> list[Reason]:
        if not self.explain:
            return []
        if fault.group == "level":
            return self.why.of_bank_timing(bank)
        return self.why.of_shared(is_fault(fault.id, ("bank",), bank))

    def _pairs(self) -> list[dict[str, Any]]:
        cylinders = self.model.arranged.cylinders
        return [
            {
                "cylinders": [cylinders[left], cylinders[right]],
                "fault": "head-gasket-between",
                "probability": _rounded(1 - float(posterior[0])),
                "because": self.why.of_pair((left, right)) if self.explain else [],
            }
            for (left, right), posterior in sorted(self.model.solution.pair.items())
        ]


def _undecided(cylinders: list[dict[str, Any]], suspects: list[int]) -> Iterator[Caution]:
    """Suspects whose faults cannot be told apart by what was recorded."""
    for one in cylinders:
        if one["number"] in suspects and one["rivals"]:
            named = " and ".join((", ".join(one["rivals"][:-1]), one["rivals"][-1]))
            text = f"Cylinder {one['number']}: too little is recorded to tell {named} apart."
            yield Caution("incomplete", f"/cylinders/{one['number']}", text)


def _rounded(chance: float) -> float:
    return round(min(max(float(chance), 0.0), 1.0), 6)


def _ranked(faults: list[dict[str, Any]]) -> list[dict[str, Any]]:
    return sorted(faults, key=lambda one: (-one["probability"], one["fault"]))
