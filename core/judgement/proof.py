"""Whether what was done is proved: by what it came with, and by nothing half done.

Whatever of the proof was not done is "not yet"; whatever went wrong is "failed", and sends the eye
to what was not touched.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from core.assessment import Proof
from core.document.records import Document
from core.evidence.findings import coded_cylinders
from core.hidden.states import LEAKING
from core.judgement.as_left import INSIDE
from core.judgement.claims import GASKET, Claim, ruled
from core.judgement.seen import crown_unseen, loose_pieces
from core.knowledge import knowledge
from core.knowledge.case import case_tables
from core.language import begun, cylinders_said, day_said, later, listed, say, word_said
from core.refit.fitting import fittings
from core.refit.points import points_state
from core.refit.proof import COMPLAINT, proof_slips
from core.refit.put_right import put_right
from core.refit.slips import mix_slip
from core.vocabulary import Grade

MOST_REASONS = 2
JOINED = later("{parts} were put right together: nobody will know which of them it was")


def proof_of(document: Document, claims: Sequence[Claim]) -> Proof:
    """Whether what was put right is proved.

    Parameters
    ----------
    document : Document
        As it was found, with the work and the proof.
    claims : sequence of Claim
        What stands of the engine as it was left.
    """
    failed = list(_failed(document, claims))
    if failed:
        return Proof("failed", _first(failed))
    missing = [*half_done(document), *_not_yet(document)]
    if missing:
        return Proof("not-yet", _first(missing))
    return Proof("passed", say("it was proved by what it came with"))


def _first(reasons: Sequence[str]) -> str:
    """The gravest of several reasons, and how many more there are."""
    told = "; ".join(reasons[:MOST_REASONS])
    more = len(reasons) - MOST_REASONS
    return say("{told}; and {more} more", told=told, more=more) if more > 0 else told


def _failed(document: Document, claims: Sequence[Claim]) -> Iterator[str]:
    """What went wrong when it was tried."""
    proof = document.proof
    if proof.start == "no":
        yield say("it does not start")
    if proof.beat == "uneven":
        yield say("its beat is uneven")
    if proof.codes == "came-back":
        yield say("the codes came back")
    if proof.complaint in ("same", "worse"):
        yield say(COMPLAINT[proof.complaint])
    for one in proof.cylinders:
        where = cylinders_said([one.cylinder])
        if one.combustion_leak in ("slight", "strong"):
            yield say("gas still passes the plug of {where}", where=where)
        if one.noise == "worse" or (one.noise == "same" and _heard(document, one.cylinder)):
            yield say("the noise at {where} is still there", where=where)
        if one.felt == "none":
            yield say("{where} changes nothing when it is cut out", where=where)
    leaking = {
        number
        for claim in claims
        if claim.stands and claim.of_cylinders and {*LEAKING, GASKET} & {*claim.explains}
        for number in claim.cylinders
    }
    still = sorted(_opened(document) & leaking & _read(document))
    if still:
        yield say("still leaking: {where}", where=cylinders_said(still))


def _heard(document: Document, cylinder: int) -> bool:
    return any(one.cylinder == cylinder for one in document.tests.noise)


def half_done(document: Document) -> Iterator[str]:
    """What no beat makes good: a torque, a slip, a gap, a hose still off, a piece not found."""
    refit = document.refit
    begun = {one.cylinder for one in refit.cylinders if one.fitted or one.torqued or one.torque}
    for one in fittings(document):
        if one.cylinder not in begun:
            continue
        where = cylinders_said([one.cylinder])
        if any(remark.refuse for remark in one.remarks):
            yield say("the plug of {where} should not have gone in", where=where)
        if one.cautions:
            yield say("a figure of {where} is questioned", where=where)
        if one.gap == "out" and not one.accepted:
            yield say("the gap of {where} is out", where=where)
        if not one.torqued:
            yield say("the plug of {where} is not torqued", where=where)
    for slip in proof_slips(document):
        number = slip.path.split("/")[3]
        yield say("the pressure of cylinder {number} was perhaps written in another unit",
                  number=number)  # fmt: skip
    if list(mix_slip(refit.premix, document.engine.specification.premix_ratio)):
        yield say("the mix is not what is wanted")
    state = points_state(document)
    if state and state.timing_undone:
        yield say("the gap of the points was set after the timing")
    off = still_off(document)
    if off and (refit.recorded or document.proof.recorded):
        yield off
    for cylinder in loose_pieces(document):
        yield say("a piece of the plug of {number} is missing", number=cylinder)
    for cylinder in crown_unseen(document):
        yield say(
            "the crown of {number} was not looked at, though its plug was burnt", number=cylinder
        )
    if refit.steps:
        closed = {one.id for one in refit.steps if one.state}
        left = sum(one["id"] not in closed for one in knowledge().bench["fit_step"])
        if left == 1:
            yield say("1 step of the way back is not closed")
        elif left:
            yield say("{count} steps of the way back are not closed", count=left)
    if refit.tools_out is not None and refit.tools_back != refit.tools_out:
        yield say(
            "tools: {out} went out, {back} back", out=refit.tools_out, back=refit.tools_back or 0
        )


def still_off(document: Document) -> str:
    """The parts that were taken off and are not back; empty where there are none."""
    off = [one.what or say("a part") for one in document.work.removed if not one.back]
    return say("still off: {parts}", parts=listed(off)) if off else ""


def _not_yet(document: Document) -> Iterator[str]:
    """What nobody has done yet."""
    proof, job = document.proof, document.inspection
    runs = job.engine_place != "stand" and job.can_run is not False
    unread = unread_again(document)
    if unread:
        yield (
            say("{where} was not read again", where=cylinders_said(unread))
            if len(unread) == 1
            else say("{where} were not read again", where=cylinders_said(unread))
        )
    for said, text, applies in (
        (proof.start, later("started"), runs),
        (proof.beat, later("listened to"), runs),
        (proof.codes == "stay-clear", later("codes cleared and looked at again"),
         bool(job.trouble_codes)),
        (proof.drive, later("driven under the conditions of the complaint"),
         runs and bool(job.complaints or coded_cylinders(document))),
        (proof.complaint == "gone", later("the complaint asked after, and gone"),
         bool(job.complaints)),
    ):  # fmt: skip
        if applies and not said:
            yield say("not yet {done}", done=say(text))


def _all(document: Document, cylinders: Sequence[int]) -> Sequence[int]:
    return cylinders or range(1, document.engine.cylinders + 1)


def _opened(document: Document) -> set[int]:
    """Cylinders that something inside was put right of."""
    return {
        number
        for one in put_right(document)
        if one.part in INSIDE
        for number in _all(document, one.cylinders)
    }


def _read(document: Document) -> set[int]:
    return {
        one.cylinder for one in document.proof.cylinders if one.pressure or one.percent is not None
    }


def unread_again(document: Document) -> list[int]:
    """Cylinders that were opened inside and whose pressure nobody read again."""
    return sorted(_opened(document) - _read(document))


def claim_of(proof: Proof, document: Document) -> list[Claim]:
    """What the proof itself claims of the engine as it was left."""
    rule = case_tables().proof
    grade: Grade = "U"
    asked = bool(document.inspection.complaints or document.inspection.trouble_codes)
    inside = any(one.part in INSIDE for one in put_right(document))
    label = ""
    if proof.state == "failed":
        grade = rule.dead_grade if document.proof.start == "no" else rule.failed_grade
        label = say("the proof failed: {why}; look to what was not touched", why=proof.why)
    elif proof.state == "not-yet":
        grade = rule.asked_grade if asked or inside else rule.other_grade
        label = say("not proved: {why}", why=proof.why)
    if not label:
        return []
    return [ruled("proof", label, grade, _all(document, ()))]


def done_in_words(document: Document) -> str:
    """What was done, in one sentence, and what the complaint did since."""
    done = put_right(document)
    if not done:
        return say("Nothing was put right.")
    acts = "; ".join(one.spoken for one in done)
    said = f"{acts[0].upper()}{acts[1:]}."
    kinds = sorted({one.part for one in done} - {"other"})
    if len(kinds) > 1 and (document.inspection.complaints or coded_cylinders(document)):
        said = f"{said} {begun(say(JOINED, parts=listed([word_said(kind) for kind in kinds])))}."
    after = document.proof.complaint
    return f"{said} {begun(say(COMPLAINT[after]))}." if after else said


def open_points(
    document: Document, proof: Proof, claims: Sequence[Claim], told: Sequence[str]
) -> list[str]:
    """What is still open after the work, the dangerous first.

    Parameters
    ----------
    document : Document
        As it was found, with the work.
    proof : Proof
    claims : sequence of Claim
        As it was left.
    told : sequence of str
        Those of its cylinders, as sentences.
    """
    again = _again(document)
    if proof.state == "passed":
        return [again]
    found = [*half_done(document), *told]
    after = document.proof.complaint
    if after is not None and after != "gone":
        found.append(say(COMPLAINT[after]))
    return [*found, *_not_yet(document), again]


def _again(document: Document) -> str:
    day = document.proof.follow_up
    return (
        say("to be looked at again on {day}", day=day_said(day))
        if day
        else say("no date to look again is set")
    )
