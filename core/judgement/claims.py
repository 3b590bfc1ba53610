"""What is claimed of an engine: each thing once, of whom, on which basis, and what follows.

A claim stands when it was seen, when a rule says it, or when it is likelier than not; it is open
when it is suspected and stands clearly above its base rate; otherwise it is not spoken of. The
ladder is in knowledge/case.toml and consequences.toml, and nowhere else.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from core.assessment import Basis, ClaimScope, Degree
from core.judgement.places import place_within
from core.knowledge import knowledge
from core.knowledge.case import Topic, case_tables
from core.language import begun, cylinders_said, listed, say
from core.quantities import percent
from core.vocabulary import Grade

GASKET = "head-gasket-between"
GAPS = ("gap-wide", "gap-narrow")
PLUG_FIRST = "overdue"  # The one claim that goes before what is worse: most trouble is only that.
RANKED = "UABCDE"


@dataclass(frozen=True, kw_only=True)
class Claim:
    """One claim.

    Attributes
    ----------
    about : str
        What it is: a fault, a topic, a look, a rule.
    label : str
        As it stands behind "Cylinder 3: "; `many` behind several.
    ways : tuple of (str, float)
        Labels of what it may be with their chances, where that is open; each of one cylinder.
    scope : str
        `cylinder`, `pair`, or of what is shared.
    own_grade : Grade
        What it makes of each of its cylinders; `grade` is what it makes of the engine.
    row : str
        The hazard's row; `acts` what putting it right is priced as, apart from its faults.
    """

    about: str
    cylinders: tuple[int, ...]
    label: str
    basis: Basis
    probability: float
    base: float
    grade: Grade
    scope: ClaimScope = "cylinder"
    name: str = ""
    many: str = ""
    own_grade: Grade = "U"
    faults: tuple[str, ...] = ()
    ways: tuple[tuple[str, float], ...] = ()
    degree: Degree = ""
    figure: str = ""
    row: str = ""
    acts: tuple[str, ...] = ()
    settles: str = ""
    lifts: str = ""
    stands: bool = True
    explains: tuple[str, ...] = ()

    @property
    def several(self) -> str:
        """As it stands behind several cylinders."""
        return self.many or self.label

    @property
    def of_cylinders(self) -> bool:
        return self.scope in ("cylinder", "pair", "some")

    @property
    def rank(self) -> int:
        return RANKED.index(self.grade)

    @property
    def cylinder_grade(self) -> Grade:
        return self.own_grade if self.own_grade != "U" else self.grade


def ruled(about: str, label: str, grade: Grade, cylinders: Sequence[int]) -> Claim:
    """What a rule says of the whole engine, and of none of its cylinders."""
    return Claim(
        about=about,
        cylinders=tuple(cylinders),
        label=label,
        basis="rule",
        probability=1.0,
        base=0.0,
        grade=grade,
        own_grade="A",
        scope="engine",
    )


def graded(
    probability: float, consequence: str, *, asked: bool = False, cuts_out: bool = False,
    stops: bool = False, slight: float = 0.0,
) -> Grade:  # fmt: skip
    """The written ladder: what a chance of some consequence makes of whom it is claimed of.

    Parameters
    ----------
    probability : float
        Of the claim. [-]
    consequence : str
        The class of what it leads to.
    asked : bool
        Whether a code or a complaint asks about it: then less puts it on watch.
    cuts_out, stops : bool
        Whether its plug stops its cylinder or endangers it; whether it forbids turning the engine.
    slight : float
        Chance that it is a leak just past its threshold, and nothing else. [-]
    """
    rule = knowledge().consequences["grades"]
    if stops and probability >= rule["stop"]:
        return "E"
    repair = knowledge().consequences["class"][consequence]["rank"] >= 2 or cuts_out
    if not repair:
        return "B"
    if probability - slight >= rule["repair"]:
        return "D"
    watched = rule["asked" if asked else "watch"]
    return "C" if probability >= watched else "B"


def stands(probability: float) -> bool:
    """Whether a chance is claimed."""
    return probability >= case_tables().ladder.stands


def suspected(probability: float, base: float) -> bool:
    """Whether a chance is spoken of at all: above one in five and clearly above its base rate."""
    raised = probability >= case_tables().ladder.raised * base
    return probability >= knowledge().suspected_from and (raised or stands(probability))


def base_of(faults: Sequence[str], scope: str = "cylinder") -> float:
    """How likely one of some faults is before anything was looked at. [-]"""
    return 1 - math.prod(1 - knowledge().fault(one, scope).prior for one in faults)


def topic(name: str) -> Topic:
    """A topic by its id."""
    return next(one for one in case_tables().topic if one.id == name)


def together(claims: Sequence[Claim]) -> list[Claim]:
    """Claims that say the same of several cylinders, as one: equal things are never ranked."""
    found: list[Claim] = []
    for one in claims:
        at = next((at for at, other in enumerate(found) if _alike(one, other)), None)
        if at is None or one.scope != "cylinder":
            found.append(one)
            continue
        other = found[at]
        found[at] = replace(
            other,
            cylinders=tuple(sorted({*other.cylinders, *one.cylinders})),
            probability=min(other.probability, one.probability),
            label=other.several,
            ways=_fewest(other.ways, one.ways),
        )
    return found


def _alike(one: Claim, other: Claim) -> bool:
    near = abs(one.probability - other.probability) <= case_tables().ladder.alike
    same = all(
        getattr(one, name) == getattr(other, name)
        for name in ("several", "scope", "basis", "grade", "stands", "row", "figure")
    )
    ways = [label for label, _ in one.ways] == [label for label, _ in other.ways]
    return same and ways and (near or one.basis != "weighed" or min(
        one.probability, other.probability) >= case_tables().ladder.stands)  # fmt: skip


def _fewest(
    one: tuple[tuple[str, float], ...], other: tuple[tuple[str, float], ...]
) -> tuple[tuple[str, float], ...]:
    return tuple(
        (label, min(chance, second))
        for (label, chance), (_, second) in zip(one, other, strict=True)
    )


FIRST = (PLUG_FIRST, "proof")  # Told before what is worse.


def in_order(claims: Sequence[Claim], asked: frozenset[int]) -> list[Claim]:
    """As they are told: what is overdue, what was asked about, then the worst first."""
    ranks = knowledge().consequences["class"]

    def weight(one: Claim) -> int:
        return int(ranks[consequence_of(one)]["rank"])

    return sorted(
        claims,
        key=lambda one: (
            one.about not in FIRST,
            -one.rank,
            not (asked & set(one.cylinders) and one.of_cylinders),
            not one.stands,
            one.basis != "seen",
            not one.of_cylinders,
            -weight(one),
            -one.probability,
            one.cylinders,
            one.about,
        ),
    )


def claimed(chance: float) -> str:
    """A probability in words: nothing is ever claimed to be certain."""
    almost = case_tables().ladder.almost
    return say("over {share}", share=percent(almost)) if chance > almost else percent(chance)


def sentence(one: Claim, everyone: int) -> str:
    """A claim as a sentence of its own."""
    if one.about == PLUG_FIRST:
        return f"{_due(one, everyone)} {one.label}."
    if one.scope == "pair":
        return f"{begun(place(one))} {phrase(one)}."
    if one.scope == "somewhere" or (one.scope == "engine" and one.basis != "weighed"):
        return f"{begun(phrase(one))}."
    return f"{whom(one, everyone)}: {phrase(one)}."


def _due(one: Claim, everyone: int) -> str:
    """The plugs that are due, as a sentence begins with them."""
    if len(one.cylinders) == everyone:
        return say("The plug is") if everyone == 1 else say("All plugs are")
    if len(one.cylinders) == 1:
        return say("The plug of {number} is", number=one.cylinders[0])
    return say("The plugs of {numbers} are", numbers=listed(one.cylinders))


def whom(one: Claim, everyone: int) -> str:
    """Of whom it is, as a sentence begins with it."""
    if one.scope == "cylinder":
        if 1 < len(one.cylinders) == everyone:
            return say("All cylinders")
        if everyone == 1:
            return say("The cylinder")
        return begun(cylinders_said(one.cylinders))
    if one.scope == "some":
        return say("One or more of {numbers}", numbers=listed(one.cylinders))
    return begun(place(one))


def place(one: Claim) -> str:
    """What cylinders share, within a sentence."""
    if one.scope == "somewhere":
        return say("what cylinders share")
    if one.scope == "pair":
        return cylinders_said(one.cylinders)
    return place_within(one.scope, one.name, one.cylinders)


def phrase(one: Claim) -> str:
    """What is claimed, with how bad and how sure."""
    label = one.several if len(one.cylinders) > 1 else one.label
    marks = [one.figure] if one.figure else []
    if one.basis == "weighed":
        marks.append(_share(one))
    told = f"{label} ({', '.join(marks)})" if marks else label
    if not one.stands:
        told = say("suspected: {told}", told=told)
    if not one.ways or one.scope == "somewhere":
        return told
    named = ", ".join(f"{name} {claimed(chance)}" for name, chance in one.ways)
    return say("{told}, the cause still open: {named}", told=told, named=named)


def _share(one: Claim) -> str:
    told = claimed(one.probability)
    if len(one.cylinders) == 1 or one.scope != "cylinder":
        return told
    if one.probability > case_tables().ladder.almost:
        return say("{chance} each", chance=told)
    return say("{chance} or more each", chance=told)


def consequence_of(one: Claim) -> str:
    """The class of what a claim leads to, the gravest of its acts or of its first fault."""
    known = knowledge()
    classes = [known.consequences["act"][act]["class"] for act in one.acts]
    if one.faults and one.faults[0] not in GAPS:
        own = one.of_cylinders or one.scope == "coil"
        scope = "pair" if one.faults[0] == GASKET else "cylinder" if own else "engine"
        classes.append(known.fault(one.faults[0], scope).consequence)
    elif one.faults:
        classes.append("plug-service")
    ranks = known.consequences["class"]
    return max(classes, key=lambda name: ranks[name]["rank"], default="none")
