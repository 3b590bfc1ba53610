"""What it may cost: of what was found, and apart from it the risk of what nobody looked at.

Faults of one cylinder exclude or accompany each other, what is shared acts on all that share it,
and one head off serves every cylinder beneath it. So the hours are reckoned on draws from the joint
answer, a fault set for each cylinder and a situation for the engine, never on products of chances.
The draws are always the same ones: the same record gives the same figures.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from core.assessment import CylinderAssessment, Unexamined, WorkEstimate
from core.document.records import HouseRules
from core.hidden.situations import HABIT
from core.hidden.states import WELL_SEAL, Mask, Vector
from core.inference.model import Model
from core.knowledge import knowledge
from core.language import say

DRAWS = 400
BAD_LUCK = 0.9  # One time in ten it takes more.
GASKET = "head-gasket-between"


Counts = dict[str, Vector]  # By act on how many cylinders it is needed, shape (draws,).


def work(model: Model, cylinders: Sequence[CylinderAssessment], house: HouseRules) -> WorkEstimate:
    """Hours and money for what was found, and with bad luck (one time in ten); no quotation.

    Parameters
    ----------
    model : Model
    cylinders : sequence of CylinderAssessment
        What becomes of their plugs.
    house : HouseRules
        A price book and an hourly rate of its own.
    """
    book = Book(house)
    needed = _needed(model, cylinders)
    told, aside = book.hours(needed.found), book.hours(needed.rest)
    rate = house.hourly_rate or knowledge().consequences["rate"]["hourly"]
    return WorkEstimate(
        expected_hours=round(told[0], 1),
        bad_luck_hours=round(told[1], 1),
        hourly_rate=rate,
        currency=house.currency or knowledge().consequences["rate"]["currency"],
        expected_cost=_money(told[0] * rate),
        bad_luck_cost=_money(told[1] * rate),
        note=say("Hours by act, parts counted as hours, times the rate; no quotation."),
        unexamined=Unexamined(_money(aside[0] * rate), _money(aside[1] * rate)),
    )


class Book:
    """Hours by act and by way in, with what a house says of its own: by act, or by class."""

    def __init__(self, house: HouseRules) -> None:
        table = knowledge().consequences
        self.acts = {name: dict(entry) for name, entry in table["act"].items()}
        self.ways = {name: dict(entry) for name, entry in table["way"].items()}
        for name, own in house.prices.items():
            said = {"hours": own.hours, "bad_hours": own.bad_hours}
            if name in self.acts:
                self._priced(self.acts[name], said)
            else:
                self._of_class(name, said)

    def _of_class(self, name: str, said: Mapping[str, float | None]) -> None:
        """A whole class at one price: the way in, where it has one, else each of its acts."""
        of_class = [act for act in self.acts.values() if act["class"] == name]
        ways = {act["way"] for act in of_class if "way" in act}
        for way in ways:
            self._priced(self.ways[way], said, each=False)
        for act in of_class:
            if said["hours"] is not None:
                act["each"], act["once"] = 0.0, 0.0 if ways else said["hours"]
            if said["bad_hours"] is not None:
                act["bad_each"], act["bad_once"] = 0.0, 0.0 if ways else said["bad_hours"]

    @staticmethod
    def _priced(
        entry: dict[str, Any], said: Mapping[str, float | None], *, each: bool = True
    ) -> None:
        """An act at the house's price: for each cylinder, or for the job where it is one."""
        for prefix, hours in (("", said["hours"]), ("bad_", said["bad_hours"])):
            if hours is None:
                continue
            by_cylinder = each and entry["each"] > 0
            entry[f"{prefix}once"] = 0.0 if by_cylinder else hours
            if by_cylinder:
                entry[f"{prefix}each"] = hours

    def hours(self, counts: Counts) -> tuple[float, float]:
        """Hours to expect, and those that one time in ten are exceeded. [h]"""
        usual, unlucky = np.zeros(DRAWS), np.zeros(DRAWS)
        opened = {name: np.zeros(DRAWS, dtype=bool) for name in self.ways}
        for name, count in counts.items():
            act = self.acts[name]
            usual += act["each"] * count + act["once"] * (count > 0)
            unlucky += act["bad_each"] * count + act["bad_once"] * (count > 0)
            if "way" in act:
                opened[act["way"]] |= count > 0
        head, apart = opened["head"] & ~opened["apart"], opened["apart"]
        for name, way in (("head", head), ("apart", apart)):
            usual += self.ways[name]["once"] * way
            unlucky += self.ways[name]["bad_once"] * way
        return float(usual.mean()), float(np.quantile(unlucky, BAD_LUCK))


@cache
def _spread(stream: int) -> Vector:
    """Numbers spread evenly over 0 to 1 in an order of their own, shape (draws,)."""
    random = np.random.default_rng(stream)
    return np.asarray((random.permutation(DRAWS) + 0.5) / DRAWS)


@cache
def _spreads(first: int, count: int) -> Vector:
    """Several of them, shape (count, draws)."""
    return np.array([_spread(first + at) for at in range(count)]).reshape(count, DRAWS)


def _drawn(chances: Vector, spread: Vector) -> NDArray[np.intp]:
    """Which of its outcomes each draw of each row has, shapes (rows, outcomes), (rows, draws)."""
    edges = np.cumsum(chances, axis=1)
    edges /= edges[:, -1:]
    return np.asarray((edges[:, None, :-1] < spread[:, :, None]).sum(axis=2))


class Needed:
    """Which acts are needed in each draw: for what was found, and for all that is unsuspected."""

    def __init__(self) -> None:
        self.found: Counts = {}
        self.rest: Counts = {}

    def add(self, act: str, drawn: Vector, *, found: bool) -> None:
        own = self.found if found else self.rest
        own[act] = own[act] + drawn if act in own else drawn

    def add_all(self, acts: Sequence[str], drawn: Vector, found: Mask) -> None:
        """Several kinds at once, shapes (acts, draws) and (acts,)."""
        for act, one, is_found in zip(acts, drawn, found, strict=True):
            self.add(act, one, found=bool(is_found))


def _needed(model: Model, cylinders: Sequence[CylinderAssessment]) -> Needed:
    needed = Needed()
    _of_plugs(needed, model, cylinders)
    _of_groups(needed, model, cylinders)
    _of_seals_and_gaskets(needed, model, cylinders)
    _of_shared(needed, model)
    return needed


def _is_out(one: CylinderAssessment) -> bool:
    return one.plug_action in ("clean", "regap", "replace")


def _of_plugs(needed: Needed, model: Model, cylinders: Sequence[CylinderAssessment]) -> None:
    """Plugs that want something by their look or age, and threads that were seen damaged."""
    plugs = sum(_is_out(one) for one in cylinders)
    threads = sum("damaged" in one.plug.threads for one in model.document.cylinders)
    for act, count in (("plug", plugs), ("thread", threads)):
        if count:
            needed.add(act, np.full(DRAWS, float(count)), found=True)


def _of_groups(needed: Needed, model: Model, cylinders: Sequence[CylinderAssessment]) -> None:
    """The fault sets of every cylinder, its three groups drawn each by itself."""
    known, least = knowledge(), knowledge().suspected_from
    beliefs, states = model.solution.beliefs, model.problem.words[0].tables.states
    marginal = [{fault.fault: fault.probability for fault in one.faults} for one in cylinders]
    out = np.array([_is_out(one) for one in cylinders])
    parts = ("mechanical", "running", "plug")
    for place, (group, part) in enumerate(zip(states.groups, parts, strict=True)):
        posterior = np.array([getattr(belief, part) for belief in beliefs])
        sets = _drawn(posterior, _spreads(1000 * place, len(cylinders)))
        has = group.has[sets].astype(float)  # cylinders, draws, faults
        found = np.array([[own[fault] >= least for fault in group.faults] for own in marginal])
        acts = [known.fault(fault, "cylinder").act for fault in group.faults]
        # A plug that is out already is counted among the plugs.
        counts = np.array([act != "plug" for act in acts])[None, :] | ~out[:, None]
        for is_found in (True, False):
            which = (found == is_found) & counts
            drawn = np.einsum("cdf,cf->fd", has, which.astype(float))
            needed.add_all(acts, drawn, np.full(len(acts), is_found))


def _of_seals_and_gaskets(
    needed: Needed, model: Model, cylinders: Sequence[CylinderAssessment]
) -> None:
    known, least = knowledge(), knowledge().suspected_from
    seals = [
        next(fault.probability for fault in one.faults if fault.fault == WELL_SEAL)
        for one in cylinders
    ]
    gaskets = [1 - float(posterior[0]) for posterior in model.solution.pair.values()]
    for act, chances, stream in (
        (known.fault(WELL_SEAL, "cylinder").act, np.array(seals), 4000),
        (known.fault(GASKET, "pair").act, np.array(gaskets), 5000),
    ):
        drawn = _spreads(stream, len(chances)) < chances[:, None]
        needed.add_all([act] * len(chances), drawn.astype(float), chances >= least)


def _of_shared(needed: Needed, model: Model) -> None:
    """What cylinders share, drawn together: no situation holds two of one kind."""
    known, least = knowledge(), knowledge().suspected_from
    situations = model.situations
    which = _drawn(model.solution.situation[None, :], _spreads(6000, 1))[0]
    drawn = situations.holds[which].astype(float)  # draws, shared
    for column, one in enumerate(situations.alone):
        if one.where != HABIT:
            act = known.fault(one.fault, "cylinder" if one.where == "coil" else "engine").act
            chance = model.shared(one.fault, (one.where,), one.name)
            needed.add(act, drawn[:, column], found=chance >= least)
    for place, (fault, chance) in enumerate(model.level_faults.items()):
        slipped = (_spread(7000 + place) < chance).astype(float)
        needed.add(known.fault(fault, "engine").act, slipped, found=chance >= least)


def _money(amount: float) -> float:
    """Rounded to two figures: nobody knows it better."""
    return float(f"{amount:.2g}")
