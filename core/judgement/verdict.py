"""The one sentence that a client remembers. It never says more than was examined."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from core.assessment import CylinderAssessment, GasketFault, SharedFault
from core.knowledge import knowledge
from core.language import begun, cylinders_said, later, say
from core.quantities import percent
from core.vocabulary import Grade

LIKELY, OPEN = 0.5, 0.2
WORTH_NAMING = 0.05
MOST = 5  # Sentences about cylinders.
MOST_OPEN = 3
CONTRADICTED = later("two records of it contradict each other, read again")
UNPROVED = later(
    "What was done is not proved: the code stands, and nobody said that the complaint went."
)
ALIKE_ALONE = ("mixture-rich", "mixture-lean", "ignition-weak", "combustion-overheat")
TOLD_UNSEEN = 0.5  # Of what all share, where nothing was looked at.
ALMOST = 0.99  # Nothing is called surer than this.
RAISED = 1.5  # A fault that nothing speaks for is as probable as before: not worth naming.


@dataclass(frozen=True)
class Summary:
    """What the sentence is made of."""

    cylinders: Sequence[CylinderAssessment]
    shared: Sequence[SharedFault]
    pairs: Sequence[GasketFault]
    suspects: Sequence[int]
    retest: bool
    outside: frozenset[int] = frozenset()
    """Cylinders that are not part of this job."""
    asked: frozenset[int] = frozenset()
    """Cylinders that a code names: the question that was asked is answered first."""
    leaking: Mapping[int, float] = field(default_factory=dict)
    """Chance that a cylinder loses pressure, whatever the way."""
    seen: Mapping[int, tuple[str, ...]] = field(default_factory=dict)
    """What was seen broken, missing or leaking, in words."""
    shown: Mapping[int, frozenset[str]] = field(default_factory=dict)
    """Faults that were seen themselves."""
    wanting: frozenset[int] = frozenset()
    """Cylinders whose plug wants something by its own look."""
    contradicted: frozenset[int] = frozenset()
    """Cylinders of which two records contradict each other."""
    grade: Grade = "U"
    intermittent: bool = False
    forbidden: str = ""
    """Why it must not run; empty where it may."""
    unproved: bool = False
    """Whether it was put right, and the question that was asked is not answered yet."""


def engine_verdict(summary: Summary) -> str:
    """Say what stands out, in a rebuilder's words."""
    blank = all(one.grade == "U" for one in summary.cylinders)
    if blank and summary.grade == "U" and not summary.retest:
        likely = [one for one in summary.shared if one.probability >= TOLD_UNSEEN]
        speaks = ", ".join(f"{_at_its_place(one)} {claimed(one.probability)}" for one in likely)
        nothing = say("Nothing has been recorded that could be judged yet.")
        tail = say("What was told of it speaks for: {speaks}.", speaks=speaks)
        return f"{nothing} {tail}" if likely else nothing
    parts = []
    if summary.retest:
        parts.append(
            say(
                "Retest before judging: every reading lies so far from what this engine should "
                "show that it says more about the test, or the valve timing, than about any "
                "cylinder."
            )
        )
    parts += _engine_wide(summary)
    parts += _cylinders(summary)
    parts += _plugs(summary)
    if summary.contradicted:
        them = sorted(summary.contradicted)
        parts.append(f"{begun(cylinders_said(them, counted=True))}: {say(CONTRADICTED)}.")
    if summary.intermittent:
        parts.append(say("It comes and goes: what was coded or complained of was not there today."))
    if summary.unproved:
        parts.append(say(UNPROVED))
    if not parts and summary.forbidden:
        parts.append(summary.forbidden)
    if not parts and summary.grade in ("C", "D", "E"):
        parts.append(_unsettled(summary))
    if parts:
        return " ".join(parts)
    ungraded = {one.number for one in summary.cylinders if one.grade == "U"}
    told = (
        (ungraded - summary.outside, say("not examined")),
        (ungraded & summary.outside, say("not part of this job")),
    )
    tails = [
        f"{begun(cylinders_said(sorted(them), counted=True))}: {why}." for them, why in told if them
    ]
    return " ".join([say("No fault found in what was examined."), *tails])


def _engine_wide(summary: Summary) -> list[str]:
    """What all cylinders share, or those of one bank, carburettor, coil or pair of leads."""
    said, of_parts = [], set()
    likely = [one for one in summary.shared if one.probability >= LIKELY]
    for one in sorted(likely, key=lambda one: one.scope == "engine"):
        retested = summary.retest and one.fault == "test-condition"
        alone = len(summary.cylinders) == 1 and one.fault in ALIKE_ALONE
        if one.scope == "engine" and (one.fault in of_parts or retested or alone):
            continue
        of_parts.add(one.fault)
        said.append(f"{place_of(one)}: {shared_label(one)} ({claimed(one.probability)}).")
    return said


def place_of(one: SharedFault) -> str:
    """What cylinders share, as a sentence begins with it."""
    return begun(_place_within(one))


def _place_within(one: SharedFault) -> str:
    numbers = _listed(list(one.cylinders))
    match one.scope:
        case "engine":
            return say("the whole engine")
        case "bank":
            return say("bank {name}", name=one.name)
        case "feed":
            return say("cylinders {numbers}, fed by {feed}", numbers=numbers, feed=one.name)
        case "coil":
            return say("the coil that cylinders {numbers} share", numbers=numbers)
        case _:
            return say("cylinders {numbers}", numbers=numbers)


def shared_label(one: SharedFault) -> str:
    """What may be wrong with it; a coil is spoken of as a cylinder's spark is."""
    if one.scope == "coil":
        return _label(one.fault)
    return say(knowledge().fault(one.fault, "engine").label)


def _at_its_place(one: SharedFault) -> str:
    """A shared fault with the part that it is of, where it is not of the whole engine."""
    label = shared_label(one)
    return label if one.scope == "engine" else f"{label} ({_place_within(one)})"


def _unsettled(summary: Summary) -> str:
    """Something is wrong and no one thing likely: the likeliest of what all share."""
    open_ones = sorted(summary.shared, key=lambda one: -one.probability)[:MOST_OPEN]
    named = ", ".join(f"{_at_its_place(one)} {claimed(one.probability)}" for one in open_ones)
    return say("Something is not right, and what is still open: {named}.", named=named)


def _cylinders(summary: Summary) -> list[str]:
    """What is wrong with single cylinders: alike ones together, the asked ones first."""
    said: list[str] = []
    in_pairs: set[int] = set()
    for pair in summary.pairs:
        if pair.probability >= LIKELY:
            a, b = pair.cylinders
            said.append(
                say(
                    "Cylinders {a} and {b} lose pressure together: most likely the gasket "
                    "between them ({probability}).",
                    a=a,
                    b=b,
                    probability=claimed(pair.probability),
                )
            )
            in_pairs |= {a, b}
    explained = {
        number for one in summary.shared if one.probability >= LIKELY for number in one.cylinders
    }
    named = set(summary.suspects) | summary.seen.keys()
    wanted = [one for one in summary.cylinders if one.number in named]
    wanted.sort(key=lambda one: (one.number not in summary.asked, _place(summary, one.number)))
    alike: dict[tuple[str, ...], list[tuple[int, list[Claim]]]] = {}
    open_cases: dict[int, str] = {}
    for one in wanted:
        claims = _claims(summary, one, beside_gasket=one.number in in_pairs)
        rivals = _rivals(one, summary.pairs)
        said_elsewhere = one.number in in_pairs or (
            one.number in explained
            and bool(rivals)
            and (rivals[0][0] < OPEN or _by_a_part(summary, one))
        )
        if claims:
            labels = tuple(claim.label for claim in claims)
            alike.setdefault(labels, []).append((one.number, claims))
        elif rivals and not said_elsewhere:
            open_cases[one.number] = _open_case(one.number, rivals)
    sentences = [_together(cases, len(summary.cylinders)) for cases in alike.values()]
    sentences += open_cases.values()
    said += sentences[:MOST]
    if len(sentences) > MOST:
        told = [number for cases in list(alike.values())[:MOST] for number, _ in cases]
        told += list(open_cases)[: max(MOST - len(alike), 0)]
        left = sorted(one.number for one in wanted if one.number not in told)
        said.append(say("Also suspect: {left}.", left=_listed(left)))
    return said


def _by_a_part(summary: Summary, one: CylinderAssessment) -> bool:
    """Whether its likeliest fault is that of a part which was named already."""
    return any(
        shared.fault == one.faults[0].fault and one.number in shared.cylinders
        for shared in summary.shared
        if shared.probability >= LIKELY
    )


def _place(summary: Summary, number: int) -> int:
    """How far up among the suspects; those only seen broken stand behind."""
    suspects = list(summary.suspects)
    return suspects.index(number) if number in suspects else len(suspects)


@dataclass(frozen=True)
class Claim:
    """One thing that is said of a cylinder; what was seen has no chance."""

    label: str
    chance: float | None = None
    tail: str = ""


def _claims(summary: Summary, one: CylinderAssessment, *, beside_gasket: bool) -> list[Claim]:
    """What was seen of a cylinder, and what is likely, side by side, what costs most first."""
    known = knowledge()
    ranks = known.consequences["class"]
    of_parts = {
        shared.fault
        for shared in summary.shared
        if shared.probability >= LIKELY and one.number in shared.cylinders
    }
    shown = summary.shown.get(one.number, frozenset())
    said = of_parts | shown
    likely = [f for f in one.faults if f.probability >= LIKELY and f.fault not in said]
    likely.sort(key=lambda fault: (
        -ranks[known.fault(fault.fault, "cylinder").consequence]["rank"], -fault.probability
    ))  # fmt: skip
    found = [Claim(words) for words in summary.seen.get(one.number, ())]
    named = {*(fault.fault for fault in likely), *shown}
    leaks = any(known.fault(fault, "cylinder").leaks for fault in named)
    losing = summary.leaking.get(one.number, 0.0)
    if losing >= LIKELY and not leaks and not beside_gasket:
        ways = [fault for fault in one.faults if known.fault(fault.fault, "cylinder").leaks]
        told = ", ".join(f"{_label(way.fault)} {claimed(way.probability)}" for way in ways[:2])
        found.append(
            Claim(say("loses pressure"), losing, say(", where is open: {told}", told=told))
        )
    return [*found, *(Claim(_label(fault.fault), fault.probability) for fault in likely)]


def _together(cases: Sequence[tuple[int, list[Claim]]], everyone: int) -> str:
    """Cylinders of which the same is said, in one sentence: an even set is one finding."""
    numbers = sorted(number for number, _ in cases)
    said = []
    for at, claim in enumerate(cases[0][1]):
        chances = [claims[at].chance for _, claims in cases]
        least = min(chance for chance in chances if chance is not None) if claim.chance else None
        share = "" if least is None else f" ({_share(least, len(cases))})"
        said.append(f"{claim.label}{share}{claim.tail if len(cases) == 1 else ''}")
    what = "; ".join(said)
    where = begun(cylinders_said(numbers))
    return f"{say('All cylinders') if 1 < len(numbers) == everyone else where}: {what}."


def _share(chance: float, cylinders: int) -> str:
    told = claimed(chance)
    if cylinders == 1:
        return told
    if chance > ALMOST:
        return say("{chance} each", chance=told)
    return say("{chance} or more each", chance=told)


def _plugs(summary: Summary) -> list[str]:
    """Plugs that want something by their own look, alike ones together."""
    wanting: dict[str, list[int]] = {}
    for one in summary.cylinders:
        if one.number in summary.wanting:
            wanting.setdefault(one.plug_reason, []).append(one.number)
    return [
        say("Plug of {number}: {reason}.", number=numbers[0], reason=reason)
        if len(numbers) == 1
        else say("Plugs of {numbers}: {reason}.", numbers=_listed(numbers), reason=reason)
        for reason, numbers in wanting.items()
    ]


def _rivals(cylinder: CylinderAssessment, pairs: Sequence[GasketFault]) -> list[tuple[float, str]]:
    """The leading suspects of one cylinder, gaskets beside it among them, the likeliest first."""
    rivals = [
        (one.probability, _label(one.fault))
        for one in cylinder.faults
        if one.probability >= RAISED * knowledge().fault(one.fault, "cylinder").prior
    ]
    for pair in pairs:
        if cylinder.number in pair.cylinders:
            other = next(number for number in pair.cylinders if number != cylinder.number)
            rivals.append((pair.probability, say("gasket between it and {other}", other=other)))
    rivals = [(chance, label) for chance, label in rivals if chance >= WORTH_NAMING]
    return sorted(rivals, reverse=True)


def _open_case(number: int, rivals: list[tuple[float, str]]) -> str:
    """A cylinder of which nothing is clear yet."""
    chance, label = rivals[0]
    open_ones = [(p, name) for p, name in rivals if p >= OPEN / 2][:3]
    if chance >= LIKELY and (len(open_ones) < 2 or open_ones[1][0] < OPEN):
        return say(
            "Cylinder {number}: probably {label} ({chance}).",
            number=number,
            label=label,
            chance=claimed(chance),
        )
    if not open_ones:
        open_ones = rivals[:2]
    named = ", ".join(f"{name} {claimed(p)}" for p, name in open_ones)
    return say(
        "Cylinder {number} is suspect, the cause still open: {named}.", number=number, named=named
    )


def _label(fault: str) -> str:
    return say(knowledge().fault(fault, "cylinder").label)


def claimed(chance: float) -> str:
    """A probability in words: nothing is ever claimed to be certain."""
    return say("over {share}", share=percent(ALMOST)) if chance > ALMOST else percent(chance)


def _listed(numbers: list[int]) -> str:
    return ", ".join(str(number) for number in numbers)
