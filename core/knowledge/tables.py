"""Reading the knowledge tables. An entry that contradicts itself never comes into being."""

from __future__ import annotations

import math
import tomllib
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cache, cached_property
from importlib import resources
from typing import Any

from core.errors import KnowledgeError
from core.knowledge.plug_words import plug_phrases
from core.knowledge.weighing import check_weighing

SOURCE_KINDS = ("practice", "memory")  # Or "published: " and its name.
LOW = "low"  # A cylinder that hangs below the shaft.
MANNERS = ("far", "cut")  # How a cylinder stands, where that changes what a fault does to it.
FILES = (
    "case",
    "faults",
    "faces",
    "channels",
    "complaints",
    "contradictions",
    "habits",
    "judgement",
    "limits",
    "modifiers",
    "pressure",
    "phrases",
    "consequences",
    "tests",
    "plan",
    "bench",
    "calculators",
    "training",
)


@dataclass(frozen=True)
class Fault:
    """A fault of one scope: `cylinder`, `pair`, `bank` or `engine`."""

    id: str
    label: str
    scopes: tuple[str, ...]
    group: str
    prior: float
    consequence: str
    act: str
    degree: str
    acts_as: str
    shows: float
    cycle: str | None
    cooling: str | None
    hazard: str | None
    leaks: bool
    exit: str | None
    oils: bool
    stops: bool
    cuts_out: bool
    remedy: str | None
    follows: tuple[str, ...]

    def chance(self, odds: Mapping[str, float]) -> float:
        """The prior with what is known beforehand: `odds` multiplies the odds of each fault."""
        ratio = self.prior / (1 - self.prior) * odds.get(self.id, 1.0)
        return ratio / (1 + ratio)

    def possible_on(self, cycle: str, cooling: str | None) -> bool:
        """Two-strokes have no valves, air-cooled engines no coolant; unknown cooling is liquid."""
        suits_cycle = self.cycle is None or cycle == self.cycle
        suits_cooling = self.cooling is None or (cooling or "liquid") == self.cooling
        return suits_cycle and suits_cooling


@dataclass(frozen=True)
class Cause:
    """What may bring a finding about: any one of some faults, with a chance and an effect."""

    faults: tuple[str, ...]
    strength: float
    values: tuple[float, ...]
    manners: Mapping[str, float] = field(hash=False)

    def strength_in(self, manner: frozenset[str]) -> float:
        """Its strength as a cylinder stands: `far`, its plug plainly worn; `cut`, its injection."""
        return next((self.manners[one] for one in MANNERS if one in manner & self.manners.keys()),
                    self.strength)  # fmt: skip


@dataclass(frozen=True)
class Channel:
    """A finding with a closed list of values and the causes that shape it, the strongest first.

    The first active cause that takes effect words the finding; if none does, the base words it.
    """

    finding: str
    values: tuple[str, ...]
    base: tuple[float, ...]
    causes: tuple[Cause, ...]
    low_base: tuple[float, ...] | None = None
    unless: str | None = None  # Of a tag, the word that says it was looked for and is not there.

    def base_in(self, manner: frozenset[str]) -> tuple[float, ...]:
        """What words it where nothing is wrong: `low`, where oil settles while it stands."""
        return self.low_base if self.low_base is not None and LOW in manner else self.base

    def index(self, value: str) -> int:
        return self.values.index(value)


@dataclass(frozen=True)
class Modifier:
    """Something known beforehand that multiplies the odds of faults."""

    when: str
    odds: Mapping[str, float]


@dataclass(frozen=True)
class Habit:
    """What a whole engine may do by nature: no fault; its prior by fuel system, or by the house."""

    id: str
    label: str
    prior: Mapping[str, float]


@dataclass(frozen=True)
class SharedFinding:
    """A finding about what all cylinders share: value -> its chance with the fault, and without."""

    fault: str
    values: Mapping[str, tuple[float, float]]


@dataclass(frozen=True)
class Knowledge:
    """All tables, checked."""

    faults: tuple[Fault, ...]
    parts: Mapping[str, float]
    faces: Channel
    habits: tuple[Habit, ...]
    judgement: Mapping[str, Any]
    face_words: Mapping[str, Mapping[str, tuple[float, ...]]]
    channels: Mapping[str, Channel]
    misfire_leak: float
    misfire_beside: float
    far_age: float
    far: Mapping[str, float]
    usual: Mapping[str, Sequence[float]]
    misfire_causes: tuple[Cause, ...]
    heard: Mapping[str, Mapping[str, tuple[float, float]]]
    shared: Mapping[str, SharedFinding]
    modifiers: Mapping[str, Modifier]
    bank_code: Mapping[str, Any]
    wear: Mapping[str, float]
    pressure: Mapping[str, Any]
    phrases: Mapping[str, Mapping[str, str]]
    consequences: Mapping[str, Any]
    tests: Mapping[str, Any]
    plan: Mapping[str, Any]
    bench: Mapping[str, Any]
    calculators: Mapping[str, Any]
    training: Mapping[str, Any]

    def fault(self, fault_id: str, scope: str) -> Fault:
        return self._by_scope[fault_id, scope]

    @cached_property
    def _by_scope(self) -> dict[tuple[str, str], Fault]:
        return {(fault.id, scope): fault for fault in self.faults for scope in fault.scopes}

    @property
    def suspected_from(self) -> float:
        """The chance from which on a fault is named as suspected. [-]"""
        return float(self.consequences["suspicion"]["from"])

    def of_scope(self, scope: str) -> tuple[Fault, ...]:
        return self._within[scope]

    @cached_property
    def _within(self) -> dict[str, tuple[Fault, ...]]:
        scopes = {scope for fault in self.faults for scope in fault.scopes}
        return {
            scope: tuple(fault for fault in self.faults if scope in fault.scopes)
            for scope in scopes
        }

    def cylinder_faults(self, which: Callable[[Fault], object]) -> tuple[str, ...]:
        """The cylinder faults of which a column of the table says something, in its order."""
        return tuple(fault.id for fault in self.of_scope("cylinder") if which(fault))


def raw_tables() -> dict[str, dict[str, Any]]:
    """The tables as written, for the page that documents them."""
    folder = resources.files("core.knowledge")
    return {name: tomllib.loads((folder / f"{name}.toml").read_text("utf-8")) for name in FILES}


def entries(tables: Mapping[str, Any], path: str = "") -> Iterator[tuple[str, Mapping[str, Any]]]:
    """Every innermost table that carries a source, with its path; an example claims nothing."""
    for key, value in tables.items():
        if key == "example":
            continue
        if isinstance(value, dict):
            if "source" in value:
                yield f"{path}/{key}", value
            yield from entries(value, f"{path}/{key}")
        elif isinstance(value, list):
            for index, item in enumerate(value):
                if isinstance(item, dict):
                    yield f"{path}/{key}/{index}", item
                    yield from entries(item, f"{path}/{key}/{index}")


@cache
def knowledge() -> Knowledge:
    """The knowledge of the trade.

    Raises
    ------
    KnowledgeError
        If a table does not add up; it names the entry.
    """
    return knowledge_of(raw_tables())


def knowledge_of(raw: Mapping[str, Mapping[str, Any]]) -> Knowledge:
    """The knowledge in tables as they are written.

    Raises
    ------
    KnowledgeError
        If a table does not add up; it names the entry.
    """
    for path, entry in entries(raw):
        _has_source(path, entry)
    check_weighing(raw)
    faces = raw["faces"]
    names = tuple(faces["base"]["values"])
    channels = [
        *(_channel(item, item["finding"]) for item in raw["channels"]["channel"]),
        *(_tag(item) for item in raw["channels"]["tag"]),
    ]
    misfire = raw["channels"]["misfire"]
    faults = tuple(_fault(item) for item in raw["faults"]["fault"])
    for cause in (*faces["cause"], *misfire["cause"]):
        _of_one_group(tuple(cause["any"]), faults)
    return Knowledge(
        faults=faults,
        parts={name: raw["faults"]["parts"][name] for name in ("bank", "feed", "coil")},
        faces=_faces(faces, faces["base"]),
        judgement=raw["judgement"],
        habits=tuple(
            Habit(item["id"], item["label"], item["prior"]) for item in raw["habits"]["habit"]
        ),
        face_words={
            finding: _words(f"words/{finding}", table, names)
            for finding, table in faces["words"].items()
        },
        channels={channel.finding: channel for channel in channels},
        misfire_leak=misfire["leak"],
        misfire_beside=misfire["beside"],
        far_age=misfire["far_age"],
        far=raw["channels"]["far"],
        usual=raw["channels"]["usual"],
        misfire_causes=tuple(
            Cause(tuple(item["any"]), item["strength"], (), _manners(item))
            for item in misfire["cause"]
        ),
        heard={
            item["finding"]: _paired(item, "fires", "misses") for item in raw["channels"]["heard"]
        },
        shared={
            item["finding"]: SharedFinding(item["fault"], _paired(item, "present", "absent"))
            for item in raw["channels"]["shared"]
        },
        modifiers={
            item["when"]: Modifier(item["when"], item["odds"])
            for item in raw["modifiers"]["modifier"]
        },
        bank_code=raw["modifiers"]["bank_code"],
        wear=raw["modifiers"]["wear"],
        pressure=raw["pressure"],
        phrases={**raw["phrases"], **plug_phrases()},
        consequences=raw["consequences"],
        tests=raw["tests"],
        plan=raw["plan"],
        bench=raw["bench"],
        calculators=raw["calculators"],
        training=raw["training"],
    )


def _has_source(path: str, entry: Mapping[str, Any]) -> None:
    source = entry.get("source", "")
    if source not in SOURCE_KINDS and not source.startswith("published: "):
        raise KnowledgeError(path, source, "a source: practice, memory or published with its name")
    if not entry.get("note"):
        raise KnowledgeError(path, entry.get("note"), "a note")


def _fault(item: Mapping[str, Any]) -> Fault:
    if not 0 < item["prior"] < 0.5:
        raise KnowledgeError(item["id"], item["prior"], "a prior above 0 and under one half")
    return Fault(
        id=item["id"],
        label=item["label"],
        scopes=tuple(item["scope"].split()),
        group=item["group"],
        prior=item["prior"],
        consequence=item["consequence"],
        act=item["act"],
        degree=item["degree"],
        acts_as=item.get("acts_as", item["id"]),
        shows=item.get("shows", 1.0),
        cycle=item.get("cycle"),
        cooling=item.get("cooling"),
        hazard=item.get("hazard"),
        leaks=item.get("leaks", False),
        exit=item.get("exit"),
        oils=item.get("oils", False),
        stops=item.get("stops", False),
        cuts_out=item.get("cuts_out", False),
        remedy=item.get("remedy"),
        follows=tuple(item.get("follows", ())),
    )


def _of_one_group(causes: tuple[str, ...], faults: tuple[Fault, ...]) -> None:
    """Any one cause of a face or a miss names faults of one group, so that both factor."""
    own = {fault.id: fault.group for fault in faults if "cylinder" in fault.scopes}
    groups = {own.get(name, "running") for name in causes}
    if len(groups) != 1:
        raise KnowledgeError("cause", causes, "faults of one group")


def _distribution(
    path: str, given: Mapping[str, float], values: tuple[str, ...]
) -> tuple[float, ...]:
    """Probabilities in the order of `values`; those not given share what rounding left: nothing."""
    unknown = set(given) - set(values)
    if unknown:
        raise KnowledgeError(path, sorted(unknown), f"only {', '.join(values)}")
    row = tuple(float(given.get(value, 0.0)) for value in values)
    if not math.isclose(sum(row), 1.0, abs_tol=1e-9) or min(row) < 0:
        raise KnowledgeError(path, sum(row), "probabilities that sum to one")
    return row


def _cause(path: str, item: Mapping[str, Any], values: tuple[str, ...]) -> Cause:
    strength = float(item["strength"])
    if not 0 < strength <= 1:
        raise KnowledgeError(path, strength, "a strength above 0, at most 1")
    row = _distribution(path, item["values"], values)
    return Cause(tuple(item["any"]), strength, row, _manners(item))


def _manners(item: Mapping[str, Any]) -> dict[str, float]:
    return {one: item[f"{one}_strength"] for one in MANNERS if f"{one}_strength" in item}


def _channel(item: Mapping[str, Any], finding: str) -> Channel:
    values = tuple(item["values"])
    base = _distribution(finding, item["values"], values)
    if min(base) <= 0:
        raise KnowledgeError(finding, base, "a base in which every value can occur")
    causes = tuple(_cause(f"{finding}/{at}", c, values) for at, c in enumerate(item["cause"]))
    low = item.get("low_values")
    return Channel(
        finding, values, base, causes, _distribution(finding, low, values) if low else None
    )


def _tag(item: Mapping[str, Any]) -> Channel:
    """A tag is a channel of two values whose causes can only bring it about."""
    causes = [{**cause, "values": {"yes": 1.0, "no": 0.0}} for cause in item["cause"]]
    values = {"no": 1 - item["present"], "yes": item["present"]}
    finding = f"{item['finding']}:{item['word']}"
    return replace(
        _channel({"values": values, "cause": causes}, finding), unless=item.get("unless")
    )


def _faces(faces: Mapping[str, Any], base: Mapping[str, Any]) -> Channel:
    return _channel({**base, "cause": faces["cause"]}, "face")


def _words(
    path: str, table: Mapping[str, Any], names: tuple[str, ...]
) -> dict[str, tuple[float, ...]]:
    """Word -> its chance under each face."""
    rows = {face: table[face] for face in names}
    words = tuple(dict.fromkeys(word for row in rows.values() for word in row))
    columns = {face: _distribution(f"{path}/{face}", row, words) for face, row in rows.items()}
    if min(min(column) for column in columns.values()) <= 0:
        raise KnowledgeError(path, 0.0, "every word possible under every face: people differ")
    return {word: tuple(columns[face][at] for face in names) for at, word in enumerate(words)}


def _paired(item: Mapping[str, Any], one: str, other: str) -> dict[str, tuple[float, float]]:
    """Word -> its chance in either of two states of the world."""
    words = tuple(item[one])
    first = _distribution(f"{item['finding']}/{one}", item[one], words)
    second = _distribution(f"{item['finding']}/{other}", item[other], words)
    return {word: (first[at], second[at]) for at, word in enumerate(words)}
