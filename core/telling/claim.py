"""One claim in the words of the contract, and in those of who pays."""

from __future__ import annotations

import tomllib
from functools import cache
from pathlib import Path
from typing import Any

from core.assessment import Claim as ToldClaim
from core.judgement.claims import Claim, consequence_of, place, sentence
from core.knowledge.case import case_tables
from core.language import begun, cylinders_said, listed, one_of, say

MOST_WAYS = 2  # Of what is open, so many are named to who pays.


@cache
def words() -> dict[str, dict[str, Any]]:
    """The table of words for clients."""
    return tomllib.loads((Path(__file__).parent / "words.toml").read_text("utf-8"))


def told_claim(one: Claim, name: str, everyone: int) -> ToldClaim:
    """A claim as the contract has it."""
    return ToldClaim(
        id=name,
        cylinders=one.cylinders,
        name=one.name,
        scope=one.scope,
        faults=one.faults,
        basis=one.basis,
        probability=round(min(max(one.probability, 0.0), 1.0), 6),
        base=round(one.base, 6),
        degree=one.degree,
        figure=one.figure,
        grade=one.grade,
        hazard=case_tables().hazard(one.row).hazard if one.row else "",
        settles=one.settles,
        lifts=one.lifts,
        stands=one.stands,
        leads_to=consequence_of(one),
        text=sentence(one, everyone),
        client=_for_client(one),
    )


def _for_client(one: Claim) -> str:
    """What somebody reads who will never hold a wrench; no chance and no figure."""
    what = _plainly(one)
    if not what:
        return ""
    if one.scope == "engine":
        return f"{begun(what)}."
    if one.scope == "some":
        who = say("One or more of cylinders {numbers}", numbers=listed(one.cylinders))
        return f"{who}: {what}."
    if one.scope in ("cylinder", "pair"):
        who = begun(cylinders_said(one.cylinders))
        if len(one.cylinders) > 1 and one.scope == "cylinder":
            return say("{who}, each: {what}.", who=who, what=what)
        return f"{who}: {what}."
    return f"{begun(place(one))}: {what}."


def _plainly(one: Claim) -> str:
    if one.about.startswith("seen "):
        at, _, word = one.about.removeprefix("seen ").rpartition(" ")
        row = next(row for row in case_tables().seen if (row.at, row.word) == (at, word))
        return say(row.client)
    table = words()["claim"]
    if one.about in table:
        told = say(table[one.about])
        if one.ways and one.scope != "somewhere":
            told = say("{what}; perhaps {ways}", what=told, ways=_ways(one))
        return told
    by_fault = words()["cylinder" if one.scope in ("cylinder", "pair", "coil") else "shared"]
    faults = [fault for fault in one.faults if fault in by_fault]
    if not faults:
        return ""
    what = one_of([say(by_fault[fault]) for fault in faults[:MOST_WAYS]])
    return what if one.stands else say("perhaps {what}", what=what)


def _ways(one: Claim) -> str:
    """The likeliest ways of what is open."""
    table = words()["ways"]
    named = [say(table[fault]) for fault in one.faults[:MOST_WAYS] if fault in table]
    return one_of(list(dict.fromkeys(named)))
