"""Claims about plugs: one a plug, by its look, its gap, what it probably is, and its age."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from core.document.records import Specification
from core.evidence.beforehand import plug_age
from core.evidence.findings import gap_of
from core.judgement.claims import PLUG_FIRST, Claim, graded, stands
from core.judgement.material import Material
from core.judgement.plugs import Disposition, electrodes_worn
from core.judgement.weighed import OF_PLUGS
from core.knowledge import knowledge
from core.knowledge.case import case_tables
from core.language import later, ranged, say
from core.quantities import figure, percent, spoken

GAP = {
    "wide": (later("its gap is too wide"), later("their gaps are too wide"), "gap-wide"),
    "over": (later("its gap is a little wide"), later("their gaps are a little wide"), "gap-wide"),
    "narrow": (later("its gap is too narrow"), later("their gaps are too narrow"), "gap-narrow"),
}
# Faults of a plug that its look shows: not said again beside it.
SHOWN_BY_LOOK = ("plug-worn", "plug-fouled")
# What the look of a plug is called where it is a claim of its own.
LOOKS = {
    "oil-wet": (later("its plug is wet with oil"), later("their plugs are wet with oil")),
    "fuel-wet": (later("its plug is wet"), later("their plugs are wet")),
    "sooty": (later("dry soot on its plug"), later("dry soot on their plugs")),
    "dusted": (later("a little dry soot on its plug"), later("a little dry soot on their plugs")),
    "crusted": (
        later("crust, glaze or rust on its plug"), later("crust, glaze or rust on their plugs"),
    ),
    "water": (later("water on its plug"), later("water on their plugs")),
    "thinned": (later("its strap is burnt thin"), later("their straps are burnt thin")),
    "sound": (later("wear on its electrodes"), later("wear on their electrodes")),
}  # fmt: skip


def on_plugs(material: Material) -> Iterator[Claim]:
    """Everything that plugs want, each said once; a set that is due is one claim."""
    late = tuple(number for number in material.cylinders if _late(material, number))
    if late and _renews(material):
        yield _overdue(material, late)
    for number, one in material.plugs.items():
        yield from _own(material, number, one, overdue=number in late)
    yield from _by_policy(material, late)


def _renews(material: Material) -> bool:
    return (material.document.house_rules.plugs or "") != "by-condition"


def _late(material: Material, number: int) -> bool:
    age = plug_age(material.document, number)
    return age is not None and age > 1 and number in material.job


def _overdue(material: Material, late: tuple[int, ...]) -> Claim:
    ages = [plug_age(material.document, number) or 0.0 for number in late]
    chances = [material.posterior.marginal(number)["plug-worn"] for number in late]
    worn = all(
        material.plugs[number].worn or (number in material.examined and stands(chance))
        for number, chance in zip(late, chances, strict=True)
    )
    past = percent(max(ages) - 1)
    label = (
        say("past their interval by {past}, and worn: renew the plugs", past=past)
        if worn
        else say("past their interval by {past}: renew the plugs", past=past)
    )
    return Claim(
        about=PLUG_FIRST,
        cylinders=late,
        label=label,
        basis="rule",
        probability=min(chances),
        base=knowledge().fault("plug-worn", "cylinder").prior,
        grade="B",
        faults=("plug-worn",),
        figure="",
        row="wear",
        settles="renew-plugs",
        explains=("plug-worn",),
    )


def _own(material: Material, number: int, one: Disposition, *, overdue: bool) -> Iterator[Claim]:
    """What one plug is, by its look, its gap, or what it probably is."""
    plug, chances = material.document.cylinder(number).plug, material.posterior.marginal(number)
    if one.gap in GAP and not electrodes_worn(plug) and one.action != "keep":
        label, many, name = GAP[one.gap]
        yield Claim(
            about=name,
            cylinders=(number,),
            label=say(label),
            many=say(many),
            basis="seen",
            probability=chances["plug-worn"],
            base=knowledge().fault("plug-worn", "cylinder").prior,
            grade="B",
            faults=(name,),
            figure=_gap_figure(material, number),
            row="wear" if one.gap != "narrow" else "",
            settles="set-gap",
            explains=("plug-worn",),
        )
        return
    covered = {"plug-worn"} if overdue else set()
    likely = [name for name in OF_PLUGS if stands(chances[name]) and name not in covered]
    worn_by_look = one.look == "sound" and electrodes_worn(plug) and "plug-worn" not in covered
    if one.by_its_look and (worn_by_look or (one.look in LOOKS and one.look != "sound")):
        label, many = LOOKS[one.look]
        own = [name for name in likely if name in SHOWN_BY_LOOK]
        yield Claim(
            about=f"plug-{one.look}",
            cylinders=(number,),
            label=say(label),
            many=say(many),
            basis="seen",
            probability=max(chances[fault] for fault in own or OF_PLUGS),
            base=knowledge().fault(own[0] if own else "plug-fouled", "cylinder").prior,
            grade="B",
            faults=tuple(own),
            row="wear" if one.look in ("sooty", "dusted", "sound", "thinned") else "",
            explains=tuple(own),
        )
        hidden = SHOWN_BY_LOOK if one.look == "sound" else ("plug-fouled",)
        likely = [name for name in likely if name not in hidden]
    for name in likely:
        fault = knowledge().fault(name, "cylinder")
        hazard = case_tables().hazard_of(name)
        yield Claim(
            about=name,
            cylinders=(number,),
            label=say(fault.label),
            basis="weighed",
            probability=chances[name],
            base=fault.prior,
            grade=graded(chances[name], fault.consequence),
            faults=(name,),
            row=hazard.row if hazard else "",
            explains=(name,),
        )


def _by_policy(material: Material, late: Sequence[int]) -> Iterator[Claim]:
    """Plugs that are renewed though nothing is wrong with them: for their age, or by the house."""
    reasons: dict[str, list[int]] = {}
    for number, one in material.plugs.items():
        if one.wants and not one.by_its_look and number not in late:
            told = any(sight.row.at.startswith("plug/") for sight in material.seen.get(number, ()))
            if not told:
                reasons.setdefault(one.reason, []).append(number)
    for reason, numbers in reasons.items():
        yield Claim(
            about="renewed",
            cylinders=tuple(numbers),
            label=say("plugs: {reason}", reason=reason),
            basis="rule",
            probability=max(material.posterior.marginal(one)["plug-worn"] for one in numbers),
            base=knowledge().fault("plug-worn", "cylinder").prior,
            grade="A",
            faults=(),
        )


def _gap_figure(material: Material, number: int) -> str:
    """A gap as it was measured, and the one that is wanted."""
    gap = gap_of(material.document.cylinder(number).plug)
    own = spoken(gap) if gap else ""
    wanted = _wanted(material.document.engine.specification)
    return say("{own}, wanted {wanted}", own=own, wanted=wanted) if wanted else own


def _wanted(given: Specification) -> str:
    ends = [one for one in (given.gap_min, given.gap_max) if one]
    if len(ends) == 2 and ends[0].unit == ends[1].unit and ends[0] != ends[1]:
        low, high = (figure(one.value) for one in ends)
        return f"{ranged([low, high])} {ends[0].unit}"
    return spoken(ends[0]) if ends else ""
