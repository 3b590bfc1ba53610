"""The tests still open on one cylinder, and what the model expects each to tell.

Outcome tables have the axes (outcome, mechanical, running, plug), of length one where the outcome
does not care.
"""

from __future__ import annotations

import math
from functools import cache, lru_cache

import numpy as np
from scipy.special import ndtr

from core.evidence.beforehand import plug_age
from core.evidence.channels import Likelihoods, Manner
from core.hidden.handling import handling
from core.hidden.states import CHAMBER_OIL, LEAKING, Group, States, Vector
from core.inference.belief import Belief
from core.inference.model import Model
from core.inference.solver import Tables
from core.inference.words import CylinderWords
from core.judgement.degree import areas_given
from core.judgement.plugs import electrodes_rounded
from core.knowledge import knowledge
from core.knowledge.limits import limits
from core.telling.acts import can_be_done, can_be_swapped, gap_off

RANK_WEIGHT = np.array(knowledge().consequences["weights"]["by_rank"])
SEAL_WEIGHT = float(knowledge().consequences["weights"]["seal"])
SCATTER = limits().act.scatter
WET_EDGES = np.array([0.03, 0.08, 0.14, 0.22, 0.35, 0.6])
# Leak areas, as tight as any to wide open, in mm2 for each 500 cm3; and how well a tester tells.
LEAK_EDGES = np.log([0.06, 0.12, 0.24, 0.48, 0.96, 1.9, 3.8])
LEAK_SCATTER = limits().act.leak_scatter
DRY_EDGES = np.array([0.3, 0.6, 0.75, 0.85, 0.92, 0.97])
SWAP_FROM = limits().act.swap_from
SPOILT = limits().act.spoilt  # A test that was probably run wrong is run again.
PLUG_ITSELF = {
    "plug/centre_electrode": "square",
    "plug/insulator": "sound",
    "plug/gap_bridged": "no",
}
INJECTED = ("port", "direct", "throttle-body")
RUNNING_RANK = 2  # Of spark and fuel, each of which is an end of its own.
OPENED_FROM = 3  # The rank of the consequences for which an engine is opened.


class Classes:
    """How probable each consequence class is together with each fault set.

    Attributes
    ----------
    joint : ndarray, shape (ends, m, r, p)
    ranks : ndarray of int, shape (ends,)
    """

    def __init__(self, joint: Vector, ranks: Vector) -> None:
        self.joint = joint
        self.ranks = ranks
        self._summed: dict[tuple[int, ...], Vector] = {}

    def information(self, outcomes: Vector) -> float:
        """Expected information of a test about the class, weighted by its rank. [bit]"""
        alike = tuple(at for at in (1, 2, 3) if outcomes.shape[at] == 1)
        if alike not in self._summed:
            self._summed[alike] = self.joint.sum(axis=alike).reshape(len(self.joint), -1)
        joint = self._summed[alike] @ outcomes.reshape(len(outcomes), -1).T
        return float(max((terms(joint).sum(axis=1) * RANK_WEIGHT[self.ranks]).sum(), 0.0))


class OpenTests:
    """The tests still open on one cylinder."""

    def __init__(self, model: Model, cylinder: int) -> None:
        self.model = model
        self.at = model.index(cylinder)
        self.cylinder = cylinder
        self.words: CylinderWords = model.problem.words[self.at]
        self.tables: Likelihoods = self.words.tables
        self.states: States = self.tables.states
        self.plug = model.document.cylinder(cylinder).plug
        self.seen = {finding.channel for finding in self.words.findings}
        if model.second:
            self.seen |= model.second.seen[cylinder]
        solution = model.solution
        sets = solution.beliefs[self.at].sets
        ends, ranks = _ends(self.states)
        self.classes = Classes(ends * sets, ranks)
        self.chance = dict(
            zip(
                self.words.names,
                self.words.marginals(solution.beliefs[self.at].posterior),
                strict=True,
            )
        )

    def bits(self) -> dict[str, float]:
        """What each open test would tell. [bit]"""
        told = self.classes.information
        found = {test: told(outcomes) for test, outcomes in self._open().items()}
        again = self.model.level_faults["test-condition"]
        if again >= SPOILT and "compression" not in found:
            found["compression"] = again * self._anew()
        if "well/oil" not in self.seen:
            found["well"] = self._well()
        document = self.model.document
        return {test: told for test, told in found.items() if can_be_done(test, document)}

    def opened(self) -> float:
        """Chance that this cylinder will have to be opened, whatever its plug is like."""
        by_end = self.classes.joint.sum(axis=(1, 2, 3))
        return float(by_end[self.classes.ranks >= OPENED_FROM].sum() / by_end.sum())

    def _spent(self) -> bool:
        """Whether its plug is probably for replacement: it is not read again."""
        replaced = knowledge().cylinder_faults(lambda fault: fault.remedy == "replace")
        spent = any(self.chance[fault] >= SPOILT for fault in replaced)
        return spent and (not self._gap_off() or electrodes_rounded(self.plug))

    def _due(self) -> bool:
        """Whether a new plug is the next thing to try: due or spent, and there is a complaint."""
        document = self.model.document
        job = document.inspection
        age = plug_age(document, self.cylinder)
        renewed = any(one.cylinder == self.cylinder for one in document.refit.cylinders)
        late = (age is not None and age > 1) or self._spent()
        return bool(job.complaints or job.trouble_codes) and late and not renewed

    def _to_hear(self) -> bool:
        """Whether listening still tells: nobody did, and the plug was not out since it ran."""
        out = self.plug.recorded and "ticking" not in self.model.document.inspection.complaints
        return not out and not self.seen & {"noise", "well/combustion_leak"}

    def _gap_off(self) -> bool:
        bands = [
            one.value
            for one in self.model.findings
            if (one.cylinder, one.channel) == (self.cylinder, "gap_ratio")
        ]
        return gap_off(self.plug, bands[0] if bands else None)

    def _to_set(self) -> bool:
        """Whether setting its gap is the next thing to try, on a plug that can stay."""
        job = self.model.document.inspection
        asked = bool(job.complaints or job.trouble_codes)
        return asked and self._gap_off() and not self._spent() and not self._due()

    def _open(self) -> dict[str, Vector]:
        """Outcome tables of the tests that make sense after what was seen."""
        engine = self.model.document.engine
        tests: dict[str, Vector] = {}
        if "plug/seating" not in self.seen:
            tests["seating"] = _direct(self.tables, "plug/seating")
        if not self.seen & {"plug/deposit_colour", "plug/wetness"}:
            tests["plug"] = _faces(self.tables, self.words.manner)
        fouled = self.chance["plug-fouled"] >= SWAP_FROM and not self._spent()
        if "plug/deposit_colour" in self.seen and "reread" not in self.seen and fouled:
            tests["reread"] = _direct(self.tables, "reread")
        if self._due():
            tests["renew-plugs"] = _renewed(self.tables, self.words.manner)
        if self._to_set():
            tests["set-gap"] = _renewed(self.tables, self.words.manner)
        if self.chance["fuel-lean"] >= SWAP_FROM:
            tests["air-leak"] = _sprayed(self.states)
        if self._to_hear():
            tests["listen"] = _direct(self.tables, "well/combustion_leak")
        if "spark/tester" not in self.seen:
            tests["spark"] = _direct(self.tables, "spark/tester")
        if engine.fuel_system in INJECTED and not any(
            channel.startswith("injector/") for channel in self.seen
        ):
            tests["injector"] = _direct(self.tables, "injector/flow")
        if "balance" not in self.seen:
            tests["balance"] = _balance(self.tables, self.words.manner, self._fired())
        if not any(channel.startswith("borescope/") for channel in self.seen):
            tests["borescope"] = _borescope(self.tables)
        if engine.cycle == "two-stroke" and "port_look" not in self.seen:
            tests["port-look"] = _direct(self.tables, "port_look")
        tests.update(self._swaps())
        tests.update(self._pressures())
        return tests

    def _swaps(self) -> dict[str, Vector]:
        """A swap needs a cylinder that can lend the part, a part that moves, and a suspicion."""
        engine = self.model.document.engine
        ignition = engine.ignition
        parts = ["plug"]
        if ignition in ("coil-on-plug", "wasted-spark", None):
            parts.append("coil")
        if ignition in ("distributor", "magneto", "wasted-spark"):
            parts.append("lead")
        if engine.fuel_system in ("port", "direct"):
            parts.append("injector")
        return {
            f"swap-{part}": _direct(self.tables, f"swap/{part}")
            for part in parts
            if f"swap/{part}" not in self.seen
            and can_be_swapped(part, self.model.document)
            and max(self.chance[fault] for fault in _following(part)) >= SWAP_FROM
        }

    def _pressures(self) -> dict[str, Vector]:
        kinds = self.seen | {one.kind for one in self.model.gauged_of(self.cylinder)}
        tests: dict[str, Vector] = {}
        if "dry" not in kinds:
            tests["compression"] = self._compression(self._areas())
        elif "wet" not in kinds:
            tests["wet-compression"] = self._wet()
        if not kinds & {"leak-down", "escape"}:
            tests["leakdown"] = self._leakdown()
        return tests

    def _fired(self) -> tuple[float, float]:
        """Chance of what was heard of its firing, if it fires and if it does not."""
        fired, missed = (math.prod(row[at] for _, row in self.words.heard) for at in (0, 1))
        return fired, missed

    def _areas(self) -> Vector:
        return areas_given(self.model.problem, self.model.solution, self.at)

    def _anew(self) -> float:
        """What a dry test would tell if none of the gauges had said anything yet. [bit]"""
        leaks, solution = self.model.problem.leaks, self.model.solution
        belief, cavity = solution.beliefs[self.at], solution.cavity[self.at]
        silent = Tables(solution.leak[self.at].pairs, None, {})
        unread = Belief(belief.weights, silent.respond(cavity, belief.weights, leaks.leaking))
        outcomes = self._compression(leaks.weights[leaks.beside[0, 0]])
        ends, ranks = _ends(self.states)
        return Classes(ends * unread.sets, ranks).information(outcomes)

    def _compression(self, areas: Vector) -> Vector:
        """The reading as a share of a healthy one, in bands."""
        leaks = self.model.problem.leaks
        total = leaks.ring_areas[:, None] + leaks.other_areas[None, :]
        shares = self.model.expected.response.share(total).ravel()
        return (_bands(shares, DRY_EDGES) @ areas)[:, :, None, None]

    def _leakdown(self) -> Vector:
        """How much it loses, in bands, and where the air is heard to escape."""
        lost = _bands(self.model.problem.leaks.log_total, LEAK_EDGES, LEAK_SCATTER) @ self._areas()
        both = lost[:, None] * _escapes(self.states.mechanical)[None, :]
        return np.asarray(both.reshape(-1, both.shape[-1])[:, :, None, None])

    def _wet(self) -> Vector:
        """How far the wet reading would rise, in bands."""
        leaks = self.model.problem.leaks
        dose = handling(wet=True, unmeasured=False)
        ring = leaks.ring_areas[:, None, None]
        other = leaks.other_areas[None, :, None]
        share = self.model.expected.response.share
        wet = share(ring * (1 - dose.closed) + other) * (1 + dose.gains)
        gain = (wet / np.maximum(share(ring + other), 0.01) - 1).reshape(-1, len(dose.gains))
        bands = _bands(gain, WET_EDGES) @ np.exp(dose.log_prior)
        return (bands @ self._areas())[:, :, None, None]

    def _well(self) -> float:
        """Oil in the well tells of the seal, and by that whether oil elsewhere is the chamber's."""
        rows = self.words.well_rows()
        seal = rows[1] / rows.sum(axis=0)  # by chamber oil
        values = knowledge().channels["well/oil"].values
        tables = np.array([self.tables.well_finding("well/oil", value) for value in values])
        given = tables[:, 0] * (1 - seal) + tables[:, 1] * seal  # outcome, chamber oil
        oil = self.states.mechanical.active(CHAMBER_OIL).astype(np.intp)
        about_faults = self.classes.information(given[:, oil][:, :, None, None])
        chance = self.chance["well-seal"]
        joint = np.stack([tables[:, 0, 0] * (1 - chance), tables[:, 1, 0] * chance])
        return about_faults + SEAL_WEIGHT * float(terms(joint).sum())


def terms(joint: Vector) -> Vector:
    """The terms of the mutual information of a joint table. [bit]"""
    joint = joint / joint.sum()
    independent = joint.sum(axis=1, keepdims=True) * joint.sum(axis=0, keepdims=True)
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.asarray(np.where(joint > 0, joint * np.log2(joint / independent), 0.0))


@cache
def _ends(states: States) -> tuple[Vector, Vector]:
    """What a fault set comes to: its worst consequence, and of spark and fuel which of them.

    Returns
    -------
    tuple of (ndarray, shape (ends, m, r, p); ndarray, shape (ends,))
        One where a fault set comes to that end, and the rank of its consequence.
    """
    m, r, p = (_ranks_of(group) for group in states.groups)
    worst = np.maximum(np.maximum(m[:, None, None], r[None, :, None]), p[None, None, :])
    own = np.array([group.argmax() if group.any() else 0 for group in states.running.has])
    which = np.broadcast_to(own[None, :, None], worst.shape)
    of_running = (worst == RUNNING_RANK) & (r[None, :, None] == RUNNING_RANK)
    found, ranks = [], []
    for rank in range(len(RANK_WEIGHT)):
        here = worst == rank
        parts = [here]
        if rank == RUNNING_RANK:
            of_one = [of_running & (which == at) for at in range(len(states.running.faults))]
            parts = [here & ~of_running, *of_one]
        found += parts
        ranks += [rank] * len(parts)
    return np.array(found, dtype=np.float64), np.array(ranks)


def _ranks_of(group: Group) -> Vector:
    """The rank of the worst consequence of every combination of a group."""
    known = knowledge()
    rank = known.consequences["class"]

    def of(name: str) -> int:
        fault = known.fault(name, "cylinder")
        own = int(rank[fault.consequence]["rank"])
        return max(own, RUNNING_RANK) if fault.cuts_out else own

    return np.asarray((group.has * np.array([of(name) for name in group.faults])).max(axis=1))


@lru_cache(maxsize=64)
def _direct(tables: Likelihoods, channel: str) -> Vector:
    """Every value that a channel can show."""
    rows = []
    for value in knowledge().channels[channel].values:
        table = tables.finding(channel, value)
        here = tables.mode_of[0]
        match table.axes:
            case "m":
                rows.append(table.chance[:, None, None])
            case "p":
                rows.append(table.chance[None, None, :])
            case "cr":
                rows.append(table.chance[0][None, :, None])
            case "um":
                rows.append(table.chance[here].T[:, :, None])
            case "up":
                rows.append(table.chance[here][None])
    return np.array(rows)


@lru_cache(maxsize=8)
def _faces(tables: Likelihoods, manner: Manner) -> Vector:
    """Reading a plug tells its face, and whether it is worn, cracked or bridged."""
    worlds = tables.worlds(manner)
    written = worlds.mode[tables.mode_of[0]]
    outcomes = np.einsum(
        "kf,rk,mk,pk->fmrp",
        worlds.faces,
        written,
        worlds.mechanical,
        worlds.plug,
        optimize=True,
    )
    for channel, sound in PLUG_ITSELF.items():
        as_new = _direct(tables, channel)[knowledge().channels[channel].index(sound)]
        both = np.array([as_new, 1 - as_new])
        outcomes = (outcomes[:, None] * both[None, :]).reshape(-1, *outcomes.shape[1:])
    return np.asarray(outcomes)


def _following(part: str) -> tuple[str, ...]:
    """Faults that go along with a part when it is swapped."""
    return knowledge().cylinder_faults(lambda fault: part in fault.follows)


@cache
def _sprayed(states: States) -> Vector:
    """Whether the speed changes where this cylinder's joint is sprayed."""
    lean = states.running.active(("fuel-lean",))
    heard = np.where(lean, *knowledge().tests["air-leak"]["changes"])
    return np.asarray(np.array([heard, 1 - heard])[:, None, :, None])


@lru_cache(maxsize=32)
def _balance(tables: Likelihoods, manner: Manner, heard: tuple[float, float]) -> Vector:
    """What cutting it out would show; of its firing something may have been heard already."""
    mechanical, running, plug = tables.fires(manner)
    fires = mechanical[:, None, None] * running[0][None, :, None] * plug[None, None, :]
    fires = fires * heard[0] / (fires * heard[0] + (1 - fires) * heard[1])
    rows = knowledge().heard["balance"].values()
    return np.array([fired * fires + missed * (1 - fires) for fired, missed in rows])


@lru_cache(maxsize=8)
def _renewed(tables: Likelihoods, manner: Manner) -> Vector:
    """Whether it fires with a new plug in it."""
    mechanical, running, _ = tables.fires(manner)
    fires = mechanical[:, None, None] * running[0][None, :, None]
    return np.array([fires, 1 - fires])


@lru_cache(maxsize=8)
def _borescope(tables: Likelihoods) -> Vector:
    """Bore and valves, independent given the faults."""
    bore, valves = _direct(tables, "borescope/bore"), _direct(tables, "borescope/valves")
    both = bore[:, None] * valves[None, :]
    return np.asarray(both.reshape(-1, *both.shape[2:]))


@cache
def _escapes(mechanical: Group) -> Vector:
    """The ear says where the air escapes, shape (paths, m); small leaks are not always heard."""
    paths = ("none", *LEAKING)
    rows = np.zeros((len(paths), len(mechanical.combinations)))
    for at, combination in enumerate(mechanical.combinations):
        leaking = [fault for fault in LEAKING if fault in combination]
        heard = knowledge().tests["leakdown"]["heard"] if leaking else 0.0
        rows[0, at] = 1 - heard
        for fault in leaking:
            rows[paths.index(fault), at] += heard / len(leaking)
    return np.asarray(0.94 * rows + 0.06 / len(paths))


def _bands(values: Vector, edges: Vector, scatter: float = SCATTER) -> Vector:
    """Chance that a value is read in each band, shape (bands, *values.shape)."""
    below = ndtr((edges.reshape(-1, *[1] * values.ndim) - values[None]) / scatter)
    ends = np.zeros((1, *values.shape)), np.ones((1, *values.shape))
    return np.asarray(np.diff(np.concatenate([ends[0], below, ends[1]]), axis=0))
