"""The one sentence that a client remembers. It never says more than was examined."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from core.assessment import CylinderAssessment, GasketFault, SharedFault
from core.knowledge import knowledge
from core.quantities import percent

CLEAR, LIKELY, OPEN = 0.8, 0.5, 0.2
WORTH_NAMING = 0.05
MOST = 3  # Sentences about cylinders.
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


def engine_verdict(summary: Summary) -> str:
    """Say what stands out, in a rebuilder's words."""
    if all(one.grade == "U" for one in summary.cylinders) and not summary.retest:
        return "Nothing has been recorded that could be judged yet."
    parts = []
    if summary.retest:
        parts.append(
            "Retest before judging: every reading lies so far from what this engine should show "
            "that it says more about the test, or the valve timing, than about any cylinder."
        )
    parts += _engine_wide(summary)
    parts += _cylinders(summary)
    if parts:
        return " ".join(parts)
    ungraded = [one.number for one in summary.cylinders if one.grade == "U"]
    told = (
        ([one for one in ungraded if one not in summary.outside], "not examined"),
        ([one for one in ungraded if one in summary.outside], "not part of this job"),
    )
    tails = [f" Cylinder{_s(them)} {_listed(them)}: {why}." for them, why in told if them]
    return f"No fault found in what was examined.{''.join(tails)}"


def _engine_wide(summary: Summary) -> list[str]:
    """What all cylinders share, or those of one bank, carburettor, coil or pair of leads."""
    said, of_parts = [], set()
    likely = [one for one in summary.shared if one.probability >= LIKELY]
    for one in sorted(likely, key=lambda one: one.scope == "engine"):
        retested = summary.retest and one.fault == "test-condition"
        if one.scope == "engine" and (one.fault in of_parts or retested):
            continue
        of_parts.add(one.fault)
        said.append(f"{place_of(one)}: {shared_label(one)} ({claimed(one.probability)}).")
    return said


def place_of(one: SharedFault) -> str:
    """What cylinders share, as a sentence begins with it."""
    numbers = _listed(list(one.cylinders))
    match one.scope:
        case "engine":
            return "The whole engine"
        case "bank":
            return f"Bank {one.name}"
        case "feed":
            return f"{one.name[:1].upper()}{one.name[1:]}, cylinders {numbers}"
        case "coil":
            return f"The coil that cylinders {numbers} share"
        case _:
            return f"Cylinders {numbers}"


def shared_label(one: SharedFault) -> str:
    """What may be wrong with it; a coil is spoken of as a cylinder's spark is."""
    if one.scope == "coil":
        return _label(one.fault)
    return knowledge().fault(one.fault, "engine").label


def _cylinders(summary: Summary) -> list[str]:
    said: list[str] = []
    told: set[int] = set()
    for pair in summary.pairs:
        if pair.probability >= LIKELY:
            a, b = pair.cylinders
            said.append(
                f"Cylinders {a} and {b} lose pressure together: most likely the gasket between "
                f"them ({claimed(pair.probability)})."
            )
            told |= {a, b}
    by_number = {one.number: one for one in summary.cylinders}
    rivals = {
        number: _rivals(by_number[number], summary.pairs)
        for number in summary.suspects
        if number not in told
    }
    alike: dict[str, list[int]] = {}  # What is clear of which cylinders, or one open case.
    for number, own in rivals.items():
        if own:
            case = own[0][1] if own[0][0] >= CLEAR else f"open {number}"
            alike.setdefault(case, []).append(number)
    for case, numbers in list(alike.items())[:MOST]:
        first = rivals[numbers[0]]
        if first[0][0] < CLEAR:
            said.append(_open_case(numbers[0], first))
        else:
            least = min(rivals[number][0][0] for number in numbers)
            said.append(_together(case, sorted(numbers), least, len(summary.cylinders)))
    return said


def _together(label: str, numbers: list[int], chance: float, everyone: int) -> str:
    """Cylinders of which the same is clear, in one sentence: an even set is one finding."""
    least = claimed(chance)
    if len(numbers) == 1:
        return f"Cylinder {numbers[0]}: {label} ({least})."
    where = f"Cylinders {_listed(numbers[:-1])} and {numbers[-1]}"
    share = least if least.startswith("over") else f"{least} or more"
    return f"{'All cylinders' if len(numbers) == everyone else where}: {label} ({share} each)."


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
            rivals.append((pair.probability, f"gasket between it and {other}"))
    rivals = [(chance, label) for chance, label in rivals if chance >= WORTH_NAMING]
    return sorted(rivals, reverse=True)


def _open_case(number: int, rivals: list[tuple[float, str]]) -> str:
    """A cylinder of which nothing is clear yet."""
    chance, label = rivals[0]
    open_ones = [(p, name) for p, name in rivals if p >= OPEN / 2][:3]
    if chance >= LIKELY and (len(open_ones) < 2 or open_ones[1][0] < OPEN):
        return f"Cylinder {number}: probably {label} ({claimed(chance)})."
    if not open_ones:
        open_ones = rivals[:2]
    named = ", ".join(f"{name} {claimed(p)}" for p, name in open_ones)
    return f"Cylinder {number} is suspect, the cause still open: {named}."


def _label(fault: str) -> str:
    return knowledge().fault(fault, "cylinder").label


def claimed(chance: float) -> str:
    """A probability in words: nothing is ever claimed to be certain."""
    return f"over {percent(0.99)}" if chance > 0.99 else percent(chance)


def _listed(numbers: list[int]) -> str:
    return ", ".join(str(number) for number in numbers)


def _s(numbers: list[int]) -> str:
    return "" if len(numbers) == 1 else "s"
