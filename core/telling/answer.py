"""One document in, one answer out: as it was found, and as it was left."""

from __future__ import annotations

from typing import Any

from msgspec import structs

from core.assessment import Assessment, CylinderAsLeft, EngineAsLeft, Proof
from core.document.distinct import distinct
from core.document.records import Document
from core.explanation.shared_reasons import SharedReasons
from core.inference.model import Model
from core.inference.posterior import Posterior
from core.judgement.as_left import model_as_left
from core.judgement.case import Case, case_of
from core.judgement.claims import sentence
from core.judgement.compression_report import compression_report, leakdown_report
from core.judgement.material import Material
from core.judgement.proof import claim_of, done_in_words, open_points, proof_of
from core.judgement.shared_faults import shared_faults
from core.telling.assessor import CLOSED, Assessor, Reports


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
    model = Model.of(distinct(Document.of(document)))
    first = Material(model, Posterior(model))
    why = SharedReasons(model) if explain else None
    reports = _reports(first, why)
    case = case_of(first, reports.shared, reports.compression, reports.leakdown)
    after = model_as_left(first)
    found = Assessor(case, reports, why, advise=advise and after is None).assessment()
    if after is None:
        return found.written()
    left, as_left = _left(case, after, advise=advise)
    return _with_as_left(found, left, as_left, model.document).written()


def _reports(material: Material, why: SharedReasons | None) -> Reports:
    model = material.model
    return Reports(
        shared_faults(model, why),
        compression_report(material.document, model.expected, material.dry),
        leakdown_report(material.document, material.lost),
    )


def _left(found: Case, after: Model, *, advise: bool) -> tuple[Case, Assessment]:
    """The case of the engine as it was left, closed where its proof passed."""
    material = Material(after, Posterior(after), found.material.model)
    reports = _reports(material, None)
    told = (material, reports.shared, reports.compression, reports.leakdown)
    before = case_of(*told, first=found)
    document = found.material.document
    proof = proof_of(document, before.claims)
    case = case_of(
        *told, first=found, proof=proof, besides=claim_of(proof, document),
        closed=proof.state == "passed",
    )  # fmt: skip
    return case, Assessor(case, reports, None, advise=advise).assessment()


def _with_as_left(
    found: Assessment, case: Case, left: Assessment, document: Document
) -> Assessment:
    """As found, and beside it as left; what to do next is what the engine as left asks for."""
    engine, after = left.engine, {one.number: one for one in left.cylinders}
    told = [
        sentence(one, case.everyone).rstrip(".")
        for one in case.claims
        if one.about != "proof" and one.grade != "A"
    ]
    passed = case.proof.state == "passed"
    return structs.replace(
        found,
        engine=structs.replace(
            found.engine,
            as_left=EngineAsLeft(
                grade=engine.grade,
                verdict=engine.verdict,
                done=done_in_words(document),
                open=tuple(open_points(document, case.proof, case.claims, told)),
                may_run=engine.may_run,
                work=engine.work,
                proof=Proof(case.proof.state, case.proof.why),
                claims=engine.claims,
                rest=engine.rest,
            ),
        ),
        cylinders=tuple(
            structs.replace(
                one,
                as_left=CylinderAsLeft(
                    after[one.number].grade,
                    tuple(structs.replace(fault, because=()) for fault in after[one.number].faults),
                ),
            )
            for one in found.cylinders
        ),
        warnings=tuple(one for one in found.warnings if not (passed and one.code in CLOSED)),
        next_tests=left.next_tests,
    )
