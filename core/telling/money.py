"""What it may cost: of what is claimed, and apart from it the risk of what nobody looked at.

Faults of one cylinder exclude or accompany each other, neighbours share a gasket, what is shared
acts on all that share it, and one head off serves every cylinder beneath it. So the hours are
reckoned on draws from the joint answer (`Posterior.draws`), never on products of chances. The draws
are always the same ones: the same record gives the same figures.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from core.assessment import Unexamined, WorkEstimate
from core.document.records import HouseRules
from core.hidden.situations import HABIT
from core.hidden.states import WELL_SEAL, Vector
from core.inference.posterior import DRAWS
from core.judgement.case import Case
from core.judgement.claims import GASKET
from core.knowledge import knowledge
from core.knowledge.limits import limits
from core.language import say

BAD_LUCK = limits().said.bad_luck  # One time in ten it takes more.


Counts = dict[str, Vector]  # By act on how many cylinders it is needed, shape (draws,).


def work(case: Case) -> WorkEstimate:
    """Hours and money for what is claimed, and with bad luck (one time in ten); no quotation."""
    house = case.material.document.house_rules
    book = Book(house)
    needed = _Needed(case)
    told, aside = book.hours(needed.found), book.hours(needed.rest)
    rate = house.hourly_rate or knowledge().consequences["rate"]["hourly"]
    return WorkEstimate(
        expected_hours=round(told[0], 1),
        bad_luck_hours=round(max(told), 1),
        hourly_rate=rate,
        currency=house.currency or knowledge().consequences["rate"]["currency"],
        expected_cost=_money(told[0] * rate),
        bad_luck_cost=_money(max(told) * rate),
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


class _Needed:
    """Which acts are needed in each draw: for what is claimed, and for all that nobody claims."""

    def __init__(self, case: Case) -> None:
        self.case = case
        self.draws = case.material.posterior.draws
        self.found: Counts = {}
        self.rest: Counts = {}
        self._of_plugs()
        self._of_cylinders()
        self._of_seals_and_gaskets()
        self._of_shared()
        self._of_sights()

    def add(self, act: str, drawn: Vector, *, found: bool) -> None:
        own = self.found if found else self.rest
        own[act] = own[act] + drawn if act in own else drawn

    def _claimed(self, cylinder: int) -> set[str]:
        """Faults that are claimed of one cylinder, whichever way it leaks."""
        return {
            fault
            for one in self.case.of(cylinder)
            if (one.of_cylinders or self.case.everyone == 1) and one.grade != "A"
            for fault in (*one.faults, *one.explains)
        }

    def _of_plugs(self) -> None:
        """Plugs that want something by their look, their age or the house's policy."""
        closed = self.case.proof.state == "passed"
        out = 0 if closed else sum(one.wants for one in self.case.material.plugs.values())
        if out:
            self.add("plug", np.full(DRAWS, float(out)), found=True)

    def _of_cylinders(self) -> None:
        """The fault sets of every cylinder as they were drawn together."""
        material = self.case.material
        states = material.model.problem.words[0].tables.states
        sets = (self.draws.mechanical, self.draws.running, self.draws.plug)
        claimed = {number: self._claimed(number) for number in material.cylinders}
        for group, chosen in zip(states.groups, sets, strict=True):
            for column, fault in enumerate(group.faults):
                act = knowledge().fault(fault, "cylinder").act
                has = group.has[:, column][chosen]  # cylinders, draws
                if not has.any():
                    continue
                # A plug that is out already is counted among the plugs.
                out = np.array([
                    act == "plug" and material.plugs[number].wants for number in material.cylinders
                ])  # fmt: skip
                mine = np.array([fault in claimed[number] for number in material.cylinders])
                for which in (True, False):
                    drawn = has[(mine == which) & ~out].sum(axis=0).astype(float)
                    if drawn.any():
                        self.add(act, drawn, found=which)

    def _of_seals_and_gaskets(self) -> None:
        material, known = self.case.material, knowledge()
        seal = known.fault(WELL_SEAL, "cylinder").act
        for at, number in enumerate(material.cylinders):
            found = WELL_SEAL in self._claimed(number)
            self.add(seal, self.draws.seal[at].astype(float), found=found)
        gasket = known.fault(GASKET, "pair").act
        for (left, right), leaks in self.draws.gaskets.items():
            both = (material.cylinders[left], material.cylinders[right])
            found = any(GASKET in self._claimed(number) or self._loses(number) for number in both)
            self.add(gasket, leaks.astype(float), found=found)

    def _loses(self, number: int) -> bool:
        """Whether it is claimed of a cylinder that it loses pressure, by whatever way."""
        return any(one.about == "pressure" for one in self.case.of(number))

    def _of_shared(self) -> None:
        """What cylinders share; no situation holds two of one kind."""
        known, model = knowledge(), self.case.material.model
        claimed = {
            (fault, one.name)
            for one in self.case.claims
            if one.scope in ("engine", "bank", "feed", "coil", "leads", "somewhere")
            for fault in one.faults
        }
        anywhere = {fault for one in self.case.claims if one.scope == "somewhere"
                    for fault in one.faults}  # fmt: skip
        drawn = model.situations.holds[self.draws.situation].astype(float)  # draws, shared
        for column, one in enumerate(model.situations.alone):
            if one.where != HABIT and drawn[:, column].any():
                act = known.fault(one.fault, "cylinder" if one.where == "coil" else "engine").act
                name = "" if one.where == "engine" else one.name
                found = (one.fault, name) in claimed or one.fault in anywhere
                self.add(act, drawn[:, column], found=found)
        for fault in model.level_faults:
            slipped = np.array([float(one == fault) for one in self.draws.level_fault])
            found = (fault, "") in claimed
            self.add(known.fault(fault, "engine").act, slipped, found=found)

    def _of_sights(self) -> None:
        """What was seen is to be put right for certain, whatever the draws say of it."""
        for one in self.case.claims:
            for act in one.acts:
                count = 1.0 if one.scope == "engine" else float(len(one.cylinders))
                already = self.found.get(act, np.zeros(DRAWS))
                self.found[act] = np.maximum(already, count)


def _money(amount: float) -> float:
    """Rounded to two figures: nobody knows it better."""
    return float(f"{amount:.2g}")
