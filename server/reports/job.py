"""The mechanic's sheet and the labels for a set of plugs, from the same record as the report."""

from __future__ import annotations

from collections import Counter
from typing import Any

from core.document.records import Document
from core.document.units import in_units, told_in_units
from core.language import say, spoken_language
from core.planning import work_order
from core.refit import refit_sheet
from server.inspections.models import Inspection
from server.inspections.services import reasons
from server.reports.content import next_acts
from server.reports.words import spoken, words


def job_content(inspection: Inspection, units: str) -> dict[str, Any]:
    """What to do, plug by plug, with parts, tools and torques in the wrench's unit."""
    shown = in_units(inspection.document, units)
    # Of what is signed it is the answer that was signed, in the units of the sheet.
    assessment = told_in_units(reasons(inspection), units)
    sheet, order = refit_sheet(shown), work_order(shown)
    now = assessment["engine"].get("as_left") or assessment["engine"]
    by_number = {one["number"]: one for one in assessment["cylinders"]}
    fitting = {one["cylinder"]: one for one in sheet["cylinders"]}
    part = shown["engine"].get("specification", {}).get("plug_part", "")
    renewed = Counter(one["plug_action"] for one in assessment["cylinders"])["replace"]
    return {
        "shop": inspection.shop,
        "language": spoken_language(),
        "title": shown["engine"].get("title") or say("Engine"),
        "engine": shown["engine"],
        "given": shown.get("inspection", {}),
        "verdict": now["verdict"],
        "may_run": now["may_run"],
        "next_tests": next_acts(assessment),
        "rows": [
            {
                "number": one["cylinder"],
                "access": one["access"],
                "why": one["why"],
                "action": words(by_number[one["cylinder"]]["plug_action"]),
                "reason": by_number[one["cylinder"]].get("plug_reason", ""),
                "torque": spoken(setting)
                if (setting := fitting[one["cylinder"]]["setting"])
                else "",
                "gap": fitting[one["cylinder"]]["gap_text"]
                if fitting[one["cylinder"]]["gap"] != "unmeasured"
                else "",
                "done": fitting[one["cylinder"]]["torqued"],
            }
            for one in order["order"]
            if one["cylinder"] in by_number
        ],
        "parts": _plugs(renewed, part) if renewed else "",
        "aim": spoken(sheet["aim"]) if sheet["aim"] else "",
        "tools": order["tools"],
        "cautions": order["cautions"],
        "steps": sheet["steps"],
        "labels": list(_labels(shown)),
    }


def _plugs(count: int, part: str) -> str:
    told = say("1 spark plug") if count == 1 else say("{count} spark plugs", count=count)
    return f"{told} {part}".strip()


def _labels(document: dict[str, Any]) -> list[dict[str, Any]]:
    """One for each plug that came out: to be kept in order, and found again."""
    typed = Document.of(document)
    given = document.get("inspection", {})
    wanted = typed.engine.specification.plug_part or ""
    ran = given.get("plug_distance") or given.get("odometer")
    return [
        {
            "number": number,
            "engine": typed.engine.identifier or typed.engine.title or "",
            "date": given.get("date", ""),
            "ran": spoken(ran) if ran else "",
            "part": typed.cylinder(number).plug.part or wanted,
        }
        for number in range(1, typed.engine.cylinders + 1)
    ]
