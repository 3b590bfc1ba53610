"""One document in, one answer out: as it was found, and as it was left."""

from __future__ import annotations

from typing import Any

from msgspec import structs

from core.assessment import Assessment, CylinderAsLeft, EngineAsLeft
from core.document.records import Document
from core.inference.model import Model
from core.judgement.as_left import done_in_words, model_as_left, open_points
from core.judgement.assessor import Assessor


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
    after = model_as_left(model)
    found = Assessor(model, explain=explain, advise=advise and after is None).assessment()
    if after is None:
        return found.written()
    left = Assessor(after, explain=False, advise=advise, first=model).assessment()
    return _with_as_left(found, left, model.document).written()


def _with_as_left(found: Assessment, left: Assessment, document: Document) -> Assessment:
    """As found, and beside it as left; what to do next is what the engine as left asks for."""
    engine = left.engine
    after = {one.number: one for one in left.cylinders}
    suspects = [one for one in engine.most_suspect if after[one].grade != "U"]
    return structs.replace(
        found,
        engine=structs.replace(
            found.engine,
            as_left=EngineAsLeft(
                grade=engine.grade,
                verdict=engine.verdict,
                done=done_in_words(document),
                open=tuple(open_points(document, [after[one] for one in suspects])),
                may_run=engine.may_run,
                work=engine.work,
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
        next_tests=left.next_tests,
    )
