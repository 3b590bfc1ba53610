"""What is said of one inspection: the assessment of the contract, as records.

The API's schema and the browser's types are made from these, as the document's are from its own.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, Literal, Self

import msgspec
from msgspec import UNSET, UnsetType

from core.document.shapes import Shape
from core.quantities import Figure
from core.vocabulary import Grade, Passing, PlugAction

FORMAT = "fiacre-assessment"
VERSION = 1

Scope = Literal["engine", "bank", "feed", "coil", "leads"]


class Told(msgspec.Struct, frozen=True):
    """A part of an answer: every field of it is written, also where it is empty; UNSET is not."""

    @classmethod
    def of(cls, written: Mapping[str, Any]) -> Self:
        """The record of an answer that was kept as JSON."""
        return msgspec.convert(written, cls)


class Because(Told, frozen=True):
    """One finding and what it alone does to the odds of one fault.

    `weight` is in bits, to a thousandth; negative argues against. `path` leads to the entry.
    """

    finding: str
    weight: float
    path: str


class Fault(Told, frozen=True):
    fault: str
    probability: float
    because: tuple[Because, ...] = ()


class Odd(Told, frozen=True):
    """Which statistic calls a reading odd, its value, and that in words."""

    statistic: str
    value: float
    text: str


Basis = Literal["seen", "weighed", "rule"]
ClaimScope = Literal[
    "cylinder", "pair", "some", "engine", "bank", "feed", "coil", "leads", "somewhere",
]  # fmt: skip
Degree = Literal["", "slight", "plain", "gross"]


class Claim(Told, frozen=True, kw_only=True):
    """One thing that is claimed, of whom, on which basis, and what follows from it.

    Attributes
    ----------
    cylinders : tuple of int
        Of whom; all that share it where it is of something shared.
    name : str
        Of the bank, carburettor, coil or leads; empty where it is a cylinder's own.
    faults : tuple of str
        What it may be, the likeliest first.
    probability, base : float
        Of the whole claim, and how likely it is before anything was looked at. [-]
    degree, figure : str
        How bad, and the figure in words; empty where there is none.
    hazard, settles, lifts : str
        What running it would risk, which test would settle it, what lifts it; empty where nothing.
    stands : bool
        Whether it is claimed; otherwise it is open.
    leads_to : str
        The class of what it leads to, by the table of consequences.
    text, client : str
        One sentence; the same for who pays, empty where it is the workshop's own business.
    """

    id: str
    cylinders: tuple[int, ...]
    name: str
    scope: ClaimScope
    faults: tuple[str, ...]
    basis: Basis
    probability: float
    base: float
    degree: Degree = ""
    figure: str = ""
    grade: Grade
    hazard: str = ""
    settles: str = ""
    lifts: str = ""
    stands: bool = True
    leads_to: str = "none"
    text: str
    client: str = ""


class Question(Told, frozen=True):
    """What the engine came with, and whether it is answered."""

    complaints: tuple[str, ...] = ()
    codes: tuple[str, ...] = ()
    cylinders: tuple[int, ...] = ()
    today: Literal["shown", "not-shown", "not-tried", "unknown"] = "unknown"
    state: Literal["answered", "open", "none"] = "none"
    text: str = ""
    asked: str = ""  # The question without its answer.


class ReadAgain(Told, frozen=True):
    """An entry that nobody may build on, what it quarrels with, and why."""

    path: str
    beside: str
    why: str


class Proof(Told, frozen=True):
    """Whether what was done is proved."""

    state: Literal["none", "not-yet", "passed", "failed"] = "none"
    why: str = ""


class CylinderAsLeft(Told, frozen=True):
    """A cylinder after the work."""

    grade: Grade
    faults: tuple[Fault, ...]


class CylinderAssessment(Told, frozen=True):
    number: int
    grade: Grade
    plug_action: PlugAction
    faults: tuple[Fault, ...]
    consequences: Mapping[str, float]
    odd: tuple[Odd, ...]
    rivals: tuple[str, ...]
    unseen: tuple[str, ...]
    plug_reason: str = ""
    examined: bool = False  # Its plug, a pressure or a running test was recorded.
    as_left: CylinderAsLeft | UnsetType = UNSET  # Only where something was done or proved.

    @property
    def grade_now(self) -> Grade:
        """As it was left, where something was done or proved; else as it was found."""
        return self.as_left.grade if self.as_left else self.grade


class Hazard(Told, frozen=True):
    """What running it with what was found would risk."""

    hazard: str
    answer: Literal["yes", "with-care", "no"]
    probability: float
    cylinders: tuple[int, ...]  # Empty where it is the engine's.
    text: str


class MayRun(Told, frozen=True):
    answer: Literal["yes", "with-care", "no", "unknown"]
    reason: str
    hazards: tuple[Hazard, ...] = ()


class Unexamined(Told, frozen=True):
    """The risk of what nobody looked at: for the inspector, never in the client's figures."""

    expected_cost: float
    bad_luck_cost: float


class Coverage(Told, frozen=True):
    """How many cylinders were looked at, and how many there are."""

    plugs: int
    pressures: int
    leakdown: int
    whole: int = msgspec.field(name="of")


class WorkEstimate(Told, frozen=True):
    """Hours and money to expect, and with bad luck; no quotation."""

    expected_hours: float
    bad_luck_hours: float
    hourly_rate: float
    currency: str
    expected_cost: float
    bad_luck_cost: float
    note: str
    unexamined: Unexamined = Unexamined(0.0, 0.0)


class EngineAsLeft(Told, frozen=True):
    """The engine after the work: how it stands, and what is still open."""

    grade: Grade
    verdict: str
    done: str
    open: tuple[str, ...]
    may_run: MayRun
    work: WorkEstimate
    proof: Proof = Proof()
    claims: tuple[Claim, ...] = ()
    rest: str = ""


class EngineAssessment(Told, frozen=True):
    grade: Grade
    verdict: str
    most_suspect: tuple[int, ...]
    faults: tuple[Fault, ...]
    may_run: MayRun
    work: WorkEstimate
    coverage: Coverage = Coverage(0, 0, 0, 0)
    intermittent: bool = False  # Coded or complained of, and fine today.
    question: Question = Question()
    claims: tuple[Claim, ...] = ()
    read_again: tuple[ReadAgain, ...] = ()
    rest: str = ""  # Of whom nothing is claimed, and who was not examined.
    as_left: EngineAsLeft | UnsetType = UNSET  # Only where something was done or proved.


class Bank(Told, frozen=True):
    name: str
    faults: tuple[Fault, ...]


class SharedFault(Told, frozen=True):
    """A fault of something that cylinders have in common, and which those are."""

    fault: str
    scope: Scope
    name: str
    cylinders: tuple[int, ...]
    probability: float
    because: tuple[Because, ...] = ()


class GasketFault(Told, frozen=True):
    cylinders: tuple[int, int]
    fault: str
    probability: float
    because: tuple[Because, ...] = ()


class SchoolVerdict(Told, frozen=True):
    rule: str
    label: str
    verdict: Passing
    failing: tuple[int, ...]
    detail: str
    decides: bool


class Expected(Told, frozen=True):
    low: Figure
    high: Figure
    basis: str


class CompressionReport(Told, frozen=True):
    rules: tuple[SchoolVerdict, ...]
    expected: Expected


class LeakdownReport(Told, frozen=True):
    rules: tuple[SchoolVerdict, ...] = ()


class Tell(Told, frozen=True):
    """What one result of a test will mean, said before it is done."""

    result: str
    means: str


class NextTest(Told, frozen=True):
    """A test worth doing; `minutes` count the way in, `access_minutes` are that part of them."""

    test: str
    cylinders: tuple[int, ...]
    bits: float
    minutes: float
    reason: str
    access_minutes: float = 0.0
    tells: tuple[Tell, ...] = ()


class Warning(Told, frozen=True):
    """`beside` leads to the other of two records that cannot both be right."""

    code: str
    path: str
    text: str
    beside: str = ""


class Assessment(Told, frozen=True, kw_only=True):
    format: Annotated[str, Shape({"const": FORMAT})] = FORMAT
    version: Annotated[int, Shape({"const": VERSION})] = VERSION
    engine: EngineAssessment
    cylinders: tuple[CylinderAssessment, ...]
    banks: tuple[Bank, ...]
    pairs: tuple[GasketFault, ...]
    shared: tuple[SharedFault, ...] = ()  # Signed before there was one list: none.
    compression: CompressionReport
    leakdown: LeakdownReport = LeakdownReport()
    next_tests: tuple[NextTest, ...]
    warnings: tuple[Warning, ...]
    rules_version: str

    def written(self) -> dict[str, Any]:
        """As the contract spells it."""
        spelt: dict[str, Any] = msgspec.json.decode(msgspec.json.encode(self))
        return spelt
