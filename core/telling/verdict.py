"""The sentence that a client remembers, told from the case: never more than was examined."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from core.judgement.case import Case
from core.judgement.claims import PLUG_FIRST, Claim, claimed, phrase, sentence, whom
from core.language import begun, cylinders_said, listed, say

MOST = 6  # Sentences about claims; the rest is one line.


def verdict_of(case: Case) -> str:
    """Say what stands out, in a rebuilder's words: the question first, then the worst."""
    blank = _blank(case)
    if blank:
        return blank
    parts = [case.question.text] if case.question.text else []
    if case.retest:
        parts.append(
            say(
                "Retest before judging: every reading lies so far from what this engine should "
                "show that it says more about the test, or the valve timing, than about any "
                "cylinder."
            )
        )
    quiet = IN_QUESTION if case.question.text else ()
    told = [one for one in case.claims if one not in case.answers and one.about not in quiet]
    sentences = list(_sentences(told, case))
    parts += sentences[:MOST]
    if len(sentences) > MOST:
        left = sorted({n for one in told for n in one.cylinders if one.of_cylinders})
        parts.append(
            say("There is more, on {numbers}.", numbers=listed(left))
            if left
            else say("There is more.")
        )
    rest = rest_of(case)
    return " ".join([*parts, rest] if rest else parts)


def rest_of(case: Case) -> str:
    """The one line for everybody else."""
    return " ".join(_others(case))


IN_QUESTION = (
    "unexplained",
    "intermittent",
    "coded",
    "unread",
    "proof",
)  # Said within the question's own sentence.


def _blank(case: Case) -> str:
    """Nothing was recorded that could be judged; what codes and complaints speak for is told."""
    if case.material.told or case.claims or case.retest:
        return ""
    if case.material.document.distributor.recorded:
        return ""
    speaks = case.material.speaks_for
    nothing = say("Nothing has been recorded that could be judged yet.")
    question = f"{case.question.text} " if case.question.text else ""
    if not speaks:
        return f"{question}{nothing}"
    told = ", ".join(f"{label} {claimed(chance)}" for label, chance in speaks)
    return f"{question}{nothing} " + say("What was told of it speaks for: {speaks}.", speaks=told)


def _sentences(claims: Sequence[Claim], case: Case) -> Iterator[str]:
    """What is said of the same cylinders in one sentence, in the order of the claims."""
    said: set[int] = set()
    for at, one in enumerate(claims):
        if at in said or one.about == "renewed":
            continue
        same = [
            (place_of, other)
            for place_of, other in enumerate(claims)
            if place_of not in said and _together(one, other)
        ]
        said |= {place_of for place_of, _ in same}
        if len(same) == 1:
            yield sentence(one, case.everyone)
        else:
            told = "; ".join(dict.fromkeys(phrase(other) for _, other in same))
            yield f"{whom(one, case.everyone)}: {told}."
    for one in claims:
        if one.about == "renewed":
            yield sentence(one, case.everyone)


def _together(one: Claim, other: Claim) -> bool:
    if one is other:
        return True
    alike = one.scope == other.scope == "cylinder" and one.cylinders == other.cylinders
    apart = {"renewed", PLUG_FIRST}
    return alike and not apart & {one.about, other.about}


def _others(case: Case) -> Iterator[str]:
    """What is left of the engine: sound, not examined, not part of the job."""
    claimed_of = any(one.grade != "A" for one in case.claims)
    job, examined = case.material.job, case.material.examined
    quiet = [number for number in case.sound if number in job]
    if not claimed_of and examined and case.grade == "A":
        yield say("No fault found in what was examined.")
    elif quiet and case.everyone > 1 and _of_some(case):
        yield (
            say("Cylinder {number}: nothing beyond its age.", number=quiet[0])
            if len(quiet) == 1
            else say("The others: nothing beyond their age.")
        )
    named = {n for one in case.claims for n in one.cylinders if one.of_cylinders}
    left = [number for number in case.material.cylinders if number not in examined | named]
    for them, why in (
        ([n for n in left if n in job], say("not examined")),
        ([n for n in left if n not in job], say("not part of this job")),
    ):
        if them:
            yield f"{begun(cylinders_said(them, counted=True))}: {why}."


def _of_some(case: Case) -> bool:
    """Whether anything is claimed of single cylinders, so that the others are the others."""
    return any(one.of_cylinders and one.grade != "A" for one in case.claims)
