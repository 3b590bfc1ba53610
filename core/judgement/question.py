"""What the engine came with: complaint, code, the cylinders asked, and whether it is answered."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Literal

from core.assessment import Proof, Question
from core.document.records import Job
from core.evidence import codes
from core.evidence.beforehand import WHEN, Known, plug_age
from core.evidence.strands import WORN, looked_at
from core.judgement.claims import PLUG_FIRST, Claim, phrase, sentence, whom
from core.judgement.material import Material
from core.knowledge.complaints import spoken_for
from core.language import begun, cylinders_said, later, listed, say, word_said

State = Literal["answered", "open", "none"]
Today = Literal["shown", "not-shown", "not-tried", "unknown"]
DEAD = {"no-start", "stopped-running"}
MISFIRE = "misfire"
MOST_ANSWERS = 2
PROVED = {
    "passed": later("put right, and proved"),
    "not-yet": later("seen to, and not proved yet"),
    "failed": later("seen to, and the proof failed"),
}
TODAY = {
    "shown": later("it was there today"),
    "not-shown": later("it was not there today, so it comes and goes"),
    "not-tried": later("it could not be tried today"),
    "unknown": "",
}


def question_of(
    material: Material, claims: Sequence[Claim], asked_of: Material, proof: Proof
) -> tuple[Question, list[Claim]]:
    """The question, and the claims that answer it.

    Parameters
    ----------
    material, claims
        Of the engine as it is judged now.
    asked_of : Material
        Of the engine as it was found: what it came with.
    proof : Proof
        Where something was put right; else none.
    """
    if proof.state != "none":
        came = asked_of.document.inspection
        if not came.complaints and not came.trouble_codes:
            return Question(), []
        passed = proof.state == "passed"
        how = say(PROVED[proof.state]) if passed else f"{say(PROVED[proof.state])}: {proof.why}"
        told = begun(_came_with(asked_of))
        text = f"{told}: {how}."
        settled: State = "answered" if passed else "open"
        cylinders = tuple(sorted(asked_of.coded))
        question = Question(
            came.complaints, came.trouble_codes, cylinders, "unknown", settled, text, told
        )
        return question, []
    job = material.document.inspection
    if not job.complaints and not job.trouble_codes:
        return Question(), []
    answers = [one for one in claims if one.stands and _explains(material, one)]
    answers = answers[:MOST_ANSWERS] if not material.coded else _of_coded(material, answers)
    open_codes = set(material.coded) - {n for one in answers for n in one.cylinders}
    state: State = "answered" if answers and not open_codes else "open"
    text = _text(material, answers, open_codes, claims)
    return (
        Question(
            complaints=job.complaints,
            codes=job.trouble_codes,
            cylinders=tuple(sorted(material.coded)),
            today=_today(job),
            state=state,
            text=text,
            asked=_asked(material),
        ),
        answers,
    )  # fmt: skip


def _of_coded(material: Material, answers: Sequence[Claim]) -> list[Claim]:
    """The first answers that name each coded cylinder."""
    found: list[Claim] = []
    for number in sorted(material.coded):
        own = [one for one in answers if number in one.cylinders]
        found += [one for one in own[:MOST_ANSWERS] if one not in found]
    return found


def explaining(material: Material) -> set[str]:
    """Every fault that what it came with speaks for."""
    job = material.document.inspection
    complained: set[str] = set(job.complaints)
    if material.coded or "P0300" in job.trouble_codes:
        complained.add(MISFIRE)
    told = [entry for entry, _ in codes.of_all(job.trouble_codes)]
    for number in material.cylinders:
        told += [entry for entry, _ in codes.of_cylinder(job.trouble_codes, number)]
    known = [Known(entry, "", "").odds for entry in told]
    coded = {fault for odds in known for fault, factor in odds.items() if factor > 1}
    return coded | spoken_for(complained)


def _explains(material: Material, one: Claim) -> bool:
    """Whether a claim is an answer to what it came with."""
    if material.coded and not set(one.cylinders) & set(material.coded):
        return False
    told = set(one.explains)
    if told == {WORN} and not _looked_at(material, one):
        return False
    stops = one.basis == "seen" and bool(told & STOPPING)
    return one.grade != "A" and (stops or bool(told & explaining(material)))


def _looked_at(material: Material, one: Claim) -> bool:
    """Whether a plug that is claimed to be worn was looked at, or is told to be old.

    That its fellows are worn makes it likely; it does not answer for a cylinder.
    """
    document = material.document
    seen = looked_at(material.model.findings)
    return any(n in seen or plug_age(document, n) is not None for n in one.cylinders)


# Seen, they explain any miss or stop, whatever the table's factors.
STOPPING = {"plug-gap-bridged", "plug-insulator-cracked", "plug-loose", "piston-damage",
            "head-gasket-coolant"}  # fmt: skip


def _today(job: Job) -> Today:
    if job.fine_today is not None:
        return "not-shown" if job.fine_today else "shown"
    stands = job.engine_place == "stand" or job.can_run is False or DEAD & set(job.complaints)
    return "not-tried" if stands else "unknown"


def _text(
    material: Material, answers: Sequence[Claim], open_codes: set[int], claims: Sequence[Claim]
) -> str:
    everyone = len(material.cylinders)
    parts = list(_answers(answers, everyone, set(material.coded)))
    unread = sorted(open_codes - material.examined)
    read = sorted(open_codes & material.examined)
    if read:
        parts.append(
            say(
                "nothing was found on {numbers} that explains it, so it comes and goes",
                numbers=listed(read),
            )
        )
    if unread:
        parts.append(
            say("{numbers} was not read yet", numbers=cylinders_said(unread))
            if len(unread) == 1
            else say("{numbers} were not read yet", numbers=cylinders_said(unread))
        )
    if not parts:
        blank = not material.examined and not claims
        parts.append(
            say("nothing was looked at yet that could explain it")
            if blank
            else say("nothing was found that explains it")
        )
    return f"{_asked(material)}: {'; '.join(parts)}."


def _asked(material: Material) -> str:
    """What it came with, and whether that was there today."""
    today = say(TODAY[_today(material.document.inspection)])
    came = begun(_came_with(material))
    return f"{came}; {today}" if today else came


def _answers(answers: Sequence[Claim], everyone: int, coded: set[int]) -> Iterator[str]:
    """The claims that answer it, of one cylinder together; whom it asks about is not said twice."""
    together: dict[tuple[int, ...], list[Claim]] = {}
    for one in answers:
        if one.scope == "cylinder" and one.about != PLUG_FIRST:
            together.setdefault(one.cylinders, []).append(one)
    for one in answers:
        if one.scope != "cylinder" or one.about == PLUG_FIRST:
            told = phrase(one) if everyone == 1 else sentence(one, everyone).rstrip(".")
            yield f"{told[0].lower()}{told[1:]}"
        elif one is together[one.cylinders][0]:
            told = "; ".join(phrase(other) for other in together[one.cylinders])
            if everyone == 1 or set(one.cylinders) == coded:
                yield told
            else:
                where = whom(one, everyone)
                yield f"{where[0].lower()}{where[1:]}: {told}"


def _came_with(material: Material) -> str:
    """What it came with, in words."""
    job = material.document.inspection
    complaints = [word_said(one) for one in job.complaints]
    coded = sorted(material.coded)
    if not complaints and coded:
        complaints = [say("misfire")]
    told = listed(complaints)
    if coded and told:
        told = say("{complaint} on {numbers}", complaint=told, numbers=listed(coded))
    said = set(" ".join(job.complaints).replace("-", " ").split())
    when = [
        say(WHEN[one]) if one in WHEN else word_said(one)
        for one in job.complaint_when
        if one not in said
    ]
    if when and told:
        told = f"{told} {listed(when)}"
    stored = listed(job.trouble_codes)
    if stored:
        told = (
            say("{told} (code {codes})", told=told, codes=stored)
            if told
            else say("code {codes}", codes=stored)
        )
    return told
