"""From a document to strands: the set of plugs that wears together, and what was complained of."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from itertools import chain, combinations

from core.document.records import Document, Job
from core.evidence.beforehand import chance_worn, plug_age
from core.evidence.channels import weighing
from core.evidence.findings import Finding
from core.hidden.strands import Factors, Lay, Strand
from core.knowledge import knowledge
from core.knowledge.complaints import complaints
from core.knowledge.limits import limits

WORN = "plug-worn"
FEW, MOST_OF_FEW, MOST_OF_MANY = 8, 3, 2  # Cylinders, and families that are told apart.
ALWAYS = limits().said.always  # No fault brings a complaint with more certainty.


@dataclass(frozen=True)
class Family:
    """Complaints that are one witness: what brings them, and how often nothing does. [-]"""

    name: str
    otherwise: float
    brings: Mapping[str, float]

    @property
    def named(self) -> list[str]:
        """The families that it is made of."""
        return self.name.split("+")


def families(document: Document) -> list[Family]:
    """What was complained of, and when: a fault that would come then brings it so much sooner.

    Each family doubles the strands, so only so many are told apart; of more, the last are one.
    """
    job = document.inspection
    found: dict[str, Family] = {}
    for one in complaints().named(job.complaints):
        own = Family(one.family, one.otherwise, one.brings)
        found[one.family] = _as_one(found[one.family], own) if one.family in found else own
    most = MOST_OF_FEW if document.engine.cylinders <= FEW else MOST_OF_MANY
    apart = list(found.values())
    while len(apart) > most:
        apart[-2:] = [_as_one(*apart[-2:])]
    return [_at_such_times(one, job) for one in apart]


def _as_one(one: Family, other: Family) -> Family:
    """Two witnesses as one: whichever says more of a fault is heard."""
    names = [*one.brings, *(name for name in other.brings if name not in one.brings)]
    brings = {name: max(one.brings.get(name, 0.0), other.brings.get(name, 0.0)) for name in names}
    otherwise = min(one.otherwise, other.otherwise)
    return Family("+".join(sorted({*one.named, *other.named})), otherwise, brings)


def _at_such_times(family: Family, job: Job) -> Family:
    entries = [f"when/{name}" for name in job.complaint_when]
    if job.complaint_how_often:
        entries.append(f"how-often/{job.complaint_how_often}")
    table = knowledge().modifiers
    brings = dict(family.brings)
    for entry in entries:
        for fault, factor in table[entry].odds.items() if entry in table else ():
            if fault in brings:
                brings[fault] *= factor
    most = max(brings.values(), default=0.0)
    share = min(ALWAYS / most, 1.0) if most > 0 else 1.0  # Only the ratios say anything.
    return Family(
        family.name, family.otherwise * share, {name: one * share for name, one in brings.items()}
    )


def of_the_set(document: Document) -> frozenset[int]:
    """Cylinders whose plugs are one set: those of which nobody gave a distance of their own."""
    numbers = range(1, document.engine.cylinders + 1)
    return frozenset(n for n in numbers if document.cylinder(n).plug.distance is None)


@dataclass(frozen=True)
class SetState:
    """One state that the set of plugs may be in.

    Attributes
    ----------
    chance, untold : float
        By its age, and had its age not been told. [-]
    odds : Factors
        Of each of its plugs.
    """

    chance: float = 1.0
    untold: float = 1.0
    odds: Factors = ()


def looked_at(found: Iterable[Finding]) -> set[int]:
    """Cylinders of whose plug something was seen or measured that tells of wear."""
    speaking = {channel.finding for channel in weighing(WORN)}
    return {finding.cylinder for finding in found if finding.channel in speaking}


def set_states(document: Document, found: Iterable[Finding]) -> tuple[SetState, ...]:
    """Whether the set of plugs is fresh or worn, where a plug that was read tells of the others."""
    members = of_the_set(document)
    if len(members) < 2 or not looked_at(found) & members:
        return (SetState(),)
    table, usual = knowledge().wear, knowledge().fault(WORN, "cylinder").prior
    age = plug_age(document, min(members))
    chance = usual if age is None else chance_worn(age)
    fresh = min(table["fresh_set"], chance / 2)
    worn = max(table["worn_set"], (1 + chance) / 2)

    def spent(share: float) -> float:
        return min(max((share - fresh) / (worn - fresh), 0.0), 1.0)

    def odds(share: float) -> Factors:
        return ((WORN, share / (1 - share) * (1 - usual) / usual),)

    return (
        SetState(1 - spent(chance), 1 - spent(usual), odds(fresh)),
        SetState(spent(chance), spent(usual), odds(worn)),
    )


def strands_of(document: Document, found: Sequence[Finding]) -> tuple[Strand, ...]:
    """Every term of the sum; the first is of a fresh set, with no complaint silent."""
    said = families(document)
    subsets = list(chain.from_iterable(combinations(said, n) for n in range(len(said) + 1)))
    return tuple(
        Strand(
            weight=state.chance * _signed(silent),
            set_=at,
            silent=frozenset(name for one in silent for name in one.named),
            lay=Lay(state.odds, _silence(silent)),
            untold=state.untold / state.chance,
        )
        for at, state in enumerate(set_states(document, found))
        for silent in subsets
    )


def _signed(silent: Iterable[Family]) -> float:
    weight = 1.0
    for one in silent:
        weight *= -(1 - one.otherwise)
    return weight


def _silence(silent: Iterable[Family]) -> Factors:
    kept: dict[str, float] = {}
    for one in silent:
        for fault, chance in one.brings.items():
            kept[fault] = kept.get(fault, 1.0) * (1 - chance)
    return tuple(sorted(kept.items()))
