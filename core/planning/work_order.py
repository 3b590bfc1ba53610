"""A work order for one engine: what to mind, what to bring, what to do, in which order and why.

Which entries of knowledge/plan.toml apply follows from the engine, the purpose and the complaints.
The document keeps what was done of it (`work`); what stands in the record of every cylinder ticks
its own step (`records`).
"""

from __future__ import annotations

from collections.abc import Mapping
from operator import attrgetter
from typing import Any

from core.document.job import cylinders_of_job
from core.document.records import Document, Record
from core.knowledge import knowledge
from core.language import ranged, say
from core.quantities import Figure, spoken
from core.refit.points import has_points

MISFIRING = frozenset(
    {"misfire", "misfire-under-load", "rough-idle", "hesitation", "power-loss", "stalling"}
)
STANDING = frozenset({"no-start", "stopped-running"})
ACCESS = {"easy": 0, "fair": 1, "awkward": 2}
DEFAULT_ACCESS = "fair"
USUAL_THREAD_MM = 14


def work_order(
    checked: Mapping[str, Any],
    taken: Mapping[str, float] | None = None,
    assessed: Mapping[str, Any] | None = None,
) -> dict[str, Any]:
    """The plan for one inspection.

    Parameters
    ----------
    checked : mapping
        A checked document; what it does not say yet has a plain default.
    taken : mapping of step to minutes, optional
        How long they took on this engine before (`own_minutes`). [min]
    assessed : mapping, optional
        The assessment of the same document: what its hazards forbid is barred, what it proved is
        closed, and its next acts are the rest of the plan.

    Returns
    -------
    dict
        `school` with its reason, `cautions`, `tools`, `figures`, `order` of the cylinders with
        reasons, `steps` in order with minutes and state, `acts` that come next, and the `minutes`
        left. [min]
    """
    document, own = Document.of(checked), taken or {}
    plan, conditions = knowledge().plan, _conditions(document)
    cylinders = document.engine.cylinders
    said = {step.id: step.state for step in document.work.steps}
    steps = [
        {
            "id": step["id"],
            "title": say(step["title"]),
            "why": say(step["note"]),
            "minutes": own.get(step["id"], step["setup"] + step["each"] * cylinders),
            "timed": step["id"] in own,
            "state": said.get(step["id"]) or _barred(step, assessed) or recorded(document, step),
        }
        for step in plan["step"]
        if _applies(step, conditions)
    ]
    acts, figures = _acts(assessed), _figures(document)
    filled = {key: value for key, value in figures.items() if value}
    words = {"thread": "14", "gap": say("the gap"), "torque": say("the maker's figure"), **filled}
    words["leads"] = say("the coils") if _has_coils(document) else say("the leads")
    return {
        "school": _school(document, conditions),
        "cautions": [say(one["text"]) for one in plan["caution"] if _applies(one, conditions)],
        "tools": [say(one["text"], **words) for one in plan["tool"] if _applies(one, conditions)],
        "figures": figures,
        "order": _order(document),
        "steps": steps,
        "acts": acts,
        "minutes": sum(step["minutes"] for step in steps if step["state"] == "open")
        + sum(act["minutes"] for act in acts),
    }


def _acts(assessed: Mapping[str, Any] | None) -> list[dict[str, Any]]:
    """What comes next, with its minutes: the same list as everywhere."""
    return [
        {
            "test": one["test"],
            "title": say(knowledge().tests[one["test"]]["label"]),
            "cylinders": one["cylinders"],
            "minutes": one["minutes"],
            "why": one["reason"],
        }
        for one in (assessed or {}).get("next_tests", ())
    ]


def _barred(step: Mapping[str, Any], assessed: Mapping[str, Any] | None) -> str:
    """Whether a hazard forbids a step as it stands now, or a passed proof has closed it."""
    if not assessed:
        return ""
    engine = assessed["engine"]
    now = engine.get("as_left") or engine
    if step.get("tests") and now.get("proof", {}).get("state") == "passed":
        return "closed"
    forbidding = {one["hazard"] for one in now["may_run"]["hazards"] if one["answer"] == "no"}
    still = forbidding & {"loose-piece", "hydraulic-lock"}
    if (step.get("runs") and forbidding) or (step.get("cranks") and still):
        return "barred"
    return ""


def recorded(document: Document, step: Mapping[str, Any]) -> str:
    """Whether what a step is for stands in the record of every cylinder of the job.

    Parameters
    ----------
    document : Document
    step : mapping
        A step of the plan; its `records` names what tells that it was done.

    Returns
    -------
    str
        `done` or `open`; a step that leaves no trace is open until somebody says otherwise.
    """
    wanted = step.get("records", "")
    if not wanted:
        return "open"
    head, _, field = wanted.partition("/")
    if head == "work":
        return "done" if _has(document.work, field) else "open"
    if head == "tests":
        tests = getattr(document.tests, field)
        told = [one for test in tests for one in getattr(test, "readings", (test,))]
        seen = {one.cylinder for one in told}
    elif head == "refit":
        seen = {one.cylinder for one in document.refit.cylinders if _has(one, field)}
    else:
        seen = {one.number for one in document.cylinders if _has(one, field)}
    return "done" if seen.issuperset(cylinders_of_job(document)) else "open"


def _has(record: Record, path: str) -> bool:
    """Whether a record holds something at a path; of several, at one of them."""
    found = (attrgetter(one.replace("/", "."))(record) for one in path.split("|"))
    return any(one.recorded if isinstance(one, Record) else bool(one) for one in found)


def _conditions(document: Document) -> set[str]:
    """What is so of this engine and this job, by the words that the plan's entries ask for."""
    inspection, engine = document.inspection, document.engine
    complaints = set(inspection.complaints)
    codes = inspection.trouble_codes
    stands = inspection.engine_place == "stand"
    misfires = complaints & MISFIRING or any(code.startswith("P03") for code in codes)
    told = {
        "port" if engine.fuel_system == "throttle-body" else engine.fuel_system or "": True,
        "electronic": engine.fuel_system not in (None, "carburettor")
        or engine.ignition in ("coil-on-plug", "wasted-spark"),
        "battery": engine.ignition != "magneto",
        "points": has_points(document),
        "several": engine.cylinders > 1,
        "radial": engine.layout == "radial",
        "stand": stands,
        "installed": not stands,
        "running": not (stands or complaints & STANDING or inspection.can_run is False),
        "misfire": misfires,
        "overheated": "overheating" in complaints,
        "compression": inspection.purpose != "routine" or complaints,
    }
    found = {name for name, so in told.items() if so}
    return found | {_school_name(document, found)}


def _applies(entry: Mapping[str, Any], conditions: set[str]) -> bool:
    """Whether all that an entry wants is so, and at least one of its occasions, if it has any."""
    wanted, occasions = set(entry.get("wants", ())), set(entry.get("when", ()))
    return wanted <= conditions and (not occasions or bool(conditions & occasions))


def _school_name(document: Document, conditions: set[str]) -> str:
    """The house's own order of work, or else by what is to be done."""
    usual = "all-out" if "compression" in conditions else "one-at-a-time"
    return document.house_rules.order_of_work or usual


def _school(document: Document, conditions: set[str]) -> dict[str, str]:
    """The house's own, or else by what is to be done; with the reason."""
    house = document.house_rules.order_of_work
    name = _school_name(document, conditions)
    school = next(one for one in knowledge().plan["school"] if one["id"] == name)
    why = say("the house's own rule") if house else say(school["why"])
    return {"id": name, "title": say(school["title"]), "why": why}


def _order(document: Document) -> list[dict[str, Any]]:
    """An easy cylinder to prove parts and socket, then the awkward ones while patience lasts."""
    numbers = range(1, document.engine.cylinders + 1)
    access = {n: document.cylinder(n).access or DEFAULT_ACCESS for n in numbers}
    easiest = min(numbers, key=lambda n: (ACCESS[access[n]], n))
    rest = sorted((n for n in numbers if n != easiest), key=lambda n: (-ACCESS[access[n]], n))
    listed = [
        {"cylinder": easiest, "access": access[easiest], "why": say("proves parts and socket")}
    ]
    for number in rest:
        why = say("while patience lasts") if access[number] == "awkward" else ""
        listed.append({"cylinder": number, "access": access[number], "why": why})
    return listed


def _figures(document: Document) -> dict[str, str]:
    """Gap and torque as they are printed, to have at hand; empty where nobody gave them."""
    specification = document.engine.specification

    def said(given: Figure | None) -> str:
        return spoken(given) if given else ""

    gaps = [said(specification.gap_min), said(specification.gap_max)]
    return {
        "thread": f"{specification.thread_mm or USUAL_THREAD_MM:g}",
        "gap": ranged(list(dict.fromkeys(one for one in gaps if one))),
        "torque": said(specification.torque_new),
        "torque_reused": said(specification.torque_reused),
        "plug": specification.plug_part or "",
    }


def _has_coils(document: Document) -> bool:
    return document.engine.ignition in ("coil-on-plug", "wasted-spark")
