"""The case: one list of what is claimed, what was asked, and how it all grades.

Verdict, panel, page one, running, money, next acts and plan are told from it; none of them asks a
probability of its own. As found and as left are two cases of one shape.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

from core.assessment import (
    CompressionReport,
    LeakdownReport,
    Proof,
    Question,
    ReadAgain,
    SharedFault,
)
from core.evidence.disqualified import read_again
from core.hidden.states import LEAKING
from core.judgement.acceptance import by_rule
from core.judgement.claims import GASKET, RANKED, Claim, consequence_of, in_order, ruled, together
from core.judgement.material import Material
from core.judgement.on_plugs import on_plugs
from core.judgement.question import question_of
from core.judgement.seen import ENGINE, Sight
from core.judgement.weighed import weighed
from core.knowledge import knowledge
from core.language import say
from core.vocabulary import Grade

SOUND = ("A", "B")
WATCH = RANKED.index("C")


@dataclass(frozen=True, eq=False)
class Case:
    """What is claimed of one engine.

    Attributes
    ----------
    material : Material
        What it was made from.
    claims : tuple of Claim
        In the order in which they are told.
    answers : tuple of Claim
        Those that answer the question.
    grades : dict of int to Grade
        Of every cylinder.
    sound : tuple of int
        Cylinders that were examined and of which nothing is claimed.
    suspects : tuple of int
        Cylinders of the claims, the worst first.
    retest : bool
        Whether the readings say so much of the test that they grade nothing.
    proof : Proof
        Only where something was put right.
    """

    material: Material
    claims: tuple[Claim, ...]
    question: Question
    answers: tuple[Claim, ...]
    grades: dict[int, Grade]
    grade: Grade
    sound: tuple[int, ...]
    suspects: tuple[int, ...]
    read_again: tuple[ReadAgain, ...]
    retest: bool
    proof: Proof = field(default_factory=Proof)

    @property
    def everyone(self) -> int:
        return len(self.material.cylinders)

    @property
    def standing(self) -> tuple[Claim, ...]:
        return tuple(one for one in self.claims if one.stands)

    @property
    def intermittent(self) -> bool:
        return any(one.about in ("intermittent", "coded") for one in self.claims)

    def of(self, cylinder: int) -> tuple[Claim, ...]:
        """Claims of one cylinder, its gaskets and the parts that it shares."""
        return tuple(one for one in self.claims if cylinder in one.cylinders)

    @property
    def opened(self) -> bool:
        """Whether what stands wants the engine opened."""
        ranks = knowledge().consequences["class"]
        return any(
            one.stands and one.grade in ("D", "E") and ranks[consequence_of(one)]["rank"] >= 3
            for one in self.claims
        )


def case_of(
    material: Material,
    shared: Sequence[SharedFault],
    compression: CompressionReport,
    leakdown: LeakdownReport,
    *,
    first: Case | None = None,
    proof: Proof | None = None,
    besides: Sequence[Claim] = (),
    closed: bool = False,
) -> Case:
    """Everything that is claimed of an engine, as it was found or as it was left.

    Parameters
    ----------
    material : Material
    shared : sequence of SharedFault
        Of what cylinders share, the likeliest first.
    compression, leakdown : reports
        What the schools say.
    first : Case or None
        As it was found, where this one is as it was left.
    proof : Proof or None
        Whether what was done is proved; None as it was found.
    besides : sequence of Claim
        What the proof itself claims.
    closed : bool
        Whether a passed proof ends the case: what is open then is no longer spoken of.
    """
    again = tuple(read_again(material.document, material.model.cautions))
    retest = _retest(material)
    found = [*_seen(material), *weighed(material, shared), *on_plugs(material)]
    leaking = {n for one in found if _is_leak(one) for n in one.cylinders}
    found += by_rule(material, compression.rules, leakdown.rules, leaking)
    found += _contradicted(material)
    found += besides
    if closed:  # What will be due one day is no part of it.
        found = [one for one in found if one.stands and one.basis != "rule"]
    asked = material.asked
    claims = in_order(together(found), asked)
    asked_of = first.material if first else material
    question, answers = question_of(material, claims, asked_of, proof or Proof())
    if first is None:
        claims = in_order([*claims, *_unanswered(material, question, claims)], asked)
    grades = {
        number: _grade(material, number, claims, retest=retest) for number in material.cylinders
    }
    grade = _engine_grade(material, claims, grades, retest=retest)
    return Case(
        material=material,
        claims=tuple(claims),
        question=question,
        answers=tuple(answers),
        grades=grades,
        grade=grade,
        sound=tuple(
            number for number in material.cylinders
            if number in material.examined and grades[number] in SOUND
            and not any(number in one.cylinders and one.of_cylinders for one in claims)
        ),
        suspects=tuple(_suspects(claims, len(material.cylinders))),
        read_again=again,
        retest=retest,
        proof=proof or Proof(),
    )  # fmt: skip


def _retest(material: Material) -> bool:
    """Whether the readings say so much of the test that they cannot grade the engine."""
    rule, level = knowledge().consequences["grades"], material.model.level_faults
    # A slipped timing that a properly run test shows is an answer, and no reason for another.
    spoilt = level["test-condition"] >= level["valve-timing"]
    return bool(material.dry) and sum(level.values()) >= rule["retest"] and spoilt


def _seen(material: Material) -> Iterator[Claim]:
    """What was seen holds, whatever its probability."""
    everyone = material.cylinders
    for cylinder, own in material.seen.items():
        for one in own:
            of_engine = cylinder == ENGINE
            yield _sighted(material, one, everyone if of_engine else (cylinder,), of_engine)


def _sighted(material: Material, one: Sight, cylinders: tuple[int, ...], of_engine: bool) -> Claim:
    row = one.row
    chance = 1.0
    if row.shows and not of_engine:
        chance = material.posterior.marginal(cylinders[0]).get(row.shows, 1.0)
    return Claim(
        about=f"seen {row.at} {row.word}",
        cylinders=cylinders,
        label=_as_it_stands(say(row.says), one),
        many=_as_it_stands(say(row.many), one) if row.many else "",
        basis="seen",
        probability=chance,
        base=knowledge().fault(row.shows, "cylinder").prior if row.shows else 0.0,
        grade=one.grade,
        own_grade="A" if of_engine and len(cylinders) > 1 else "U",
        scope="engine" if of_engine else "cylinder",
        faults=(row.shows,) if row.shows else (),
        row=one.hazard,
        acts=(row.act,) if row.act else (),
        settles=row.settles or "" if not one.lifted else "",
        lifts=say(row.lifts) if row.lifts and not one.lifted else "",
        explains=(*((row.shows,) if row.shows else ()), *row.explains),
    )


def _as_it_stands(label: str, one: Sight) -> str:
    """A look in words, with what lifted it."""
    if not one.lifted:
        return label
    return f"{label} ({say(one.row.lifts)})"


def _is_leak(one: Claim) -> bool:
    """Whether a leak of single cylinders stands, watched at least."""
    leaks = {*LEAKING, GASKET} & set(one.explains)
    return bool(leaks) and one.stands and one.scope in ("cylinder", "pair") and one.rank >= WATCH


def _contradicted(material: Material) -> Iterator[Claim]:
    """Cylinders of which two tests contradict each other: neither convicts."""
    for one in material.model.cautions:
        if one.code == "contradiction" and one.path.startswith("/tests/"):
            yield Claim(
                about="contradicted",
                cylinders=(one.cylinder,),
                label=say("two records of it contradict each other, read again"),
                many=say("two records of each contradict each other, read again"),
                basis="seen",
                probability=1.0,
                base=0.0,
                grade="C",
            )


def _unanswered(material: Material, question: Question, claims: Sequence[Claim]) -> Iterator[Claim]:
    """A code or a complaint stands, also where today's tests are fine."""
    job = material.document.inspection
    explained = {
        number
        for one in claims
        if one.stands and one.rank >= WATCH and one.scope != "engine"
        for number in one.cylinders
    }
    unread = tuple(sorted(n for n in material.coded if n not in material.examined))
    if unread:
        yield Claim(
            about="unread",
            cylinders=unread,
            label=say("its code stands, and nobody has read it yet"),
            many=say("their codes stand, and nobody has read them yet"),
            basis="rule",
            probability=max(material.posterior.own_repair(n) for n in unread),
            base=0.0,
            grade="C",
        )
    left = tuple(sorted(n for n in material.coded if n not in explained and n not in unread))
    if left:
        yield Claim(
            about="coded",
            cylinders=left,
            label=say("its code stands, and nothing found explains it: it comes and goes"),
            many=say("their codes stand, and nothing found explains them: they come and go"),
            basis="rule",
            probability=max(material.posterior.own_repair(n) for n in left),
            base=0.0,
            grade="C",
        )
        return
    looked = material.told or material.document.distributor.recorded
    if job.fine_today and question.state != "none":
        label = say("it comes and goes: what it came with was not there today")
        yield ruled("intermittent", label, "C", material.cylinders)
    elif question.state == "open" and not unread and looked:
        label = say("what it came with is not explained yet")
        yield ruled("unexplained", label, "C", material.cylinders)


def _grade(material: Material, number: int, claims: Sequence[Claim], *, retest: bool) -> Grade:
    """The worst of what is claimed of a cylinder; A where it was examined and nothing is."""
    if number not in material.examined:
        return "U"
    own = [one.cylinder_grade for one in claims if number in one.cylinders]
    given: Grade = max([*own, "A"], key=RANKED.index)
    only_pressures = not material.model.problem.words[material.model.index(number)].findings
    return "U" if retest and only_pressures and given in SOUND else given


def _engine_grade(
    material: Material, claims: Sequence[Claim], grades: dict[int, Grade], *, retest: bool
) -> Grade:
    if retest and not any(_holds(material, one) and one.grade not in SOUND for one in claims):
        return "U"
    if not material.examined and not material.document.distributor.recorded:
        grave = [one.grade for one in claims if one.grade not in SOUND]
        return max(grave, default="U", key=RANKED.index)
    given = [*grades.values(), *(one.grade for one in claims), "A"]
    return max((one for one in given if one != "U"), key=RANKED.index)


def _holds(material: Material, one: Claim) -> bool:
    """Whether a claim stands without the gauge: a test that is to be made again convicts nobody."""
    by_gauge = set(one.explains) & {*LEAKING, GASKET, "valve-timing"}
    read_by_air = set(one.cylinders) <= material.lost.keys()
    return one.stands and (one.basis == "seen" or not by_gauge or read_by_air)


def _suspects(claims: Sequence[Claim], everyone: int) -> list[int]:
    """Cylinders of the claims, the worst grade first, then the likeliest."""
    ranked: dict[int, tuple[int, float]] = {}
    for one in claims:
        of_engine = one.scope in ("engine", "somewhere") and everyone > 1
        if of_engine or one.cylinder_grade == "A":
            continue
        for number in one.cylinders:
            own = (RANKED.index(one.cylinder_grade), one.probability)
            ranked[number] = max(ranked.get(number, own), own)
    return sorted(ranked, key=lambda number: (-ranked[number][0], -ranked[number][1], number))
