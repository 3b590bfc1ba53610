"""The refit's page of a report: what went in, how it was set, and whether the fix was proved."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

from core.language import day_said, later, say
from core.refit import refit_sheet
from core.refit.proof import CODES, COMPLAINT
from server.reports.words import spoken, words

GAPS = {"in": later("in"), "out": later("out"), "cannot-say": later("cannot say")}


def refit_content(document: Mapping[str, Any]) -> dict[str, Any] | None:
    """What the refit's page shows; None where nothing of one is recorded."""
    refit, proof = document.get("refit"), document.get("proof")
    if not refit and not proof:
        return None
    sheet = refit_sheet(document)
    given = {one["cylinder"]: one for one in (refit or {}).get("cylinders", [])}
    return {
        "sheet": sheet,
        "aim": spoken(sheet["aim"]) if sheet["aim"] else "",
        "rows": [_row(one, given.get(one["cylinder"], {})) for one in sheet["cylinders"]],
        "refused": (refit or {}).get("refused", []),
        "closed": (refit or {}).get("closed", False),
        "steps_told": "; ".join(one["title"] for one in sheet["steps"] if one["state"] != "done"),
        "unverified": "; ".join(sheet["unverified"]),
        "points": list(_points(document, sheet)) if sheet["points"] else [],
        "points_told": "; ".join(_points(document, sheet)) if sheet["points"] else "",
        "premix": _premix((refit or {}).get("premix", {})),
        "kept_told": ", ".join((refit or {}).get("kept", {}).values()),
        "proof": list(_proof(proof)) if proof else [],
        "follow_up": day_said((proof or {}).get("follow_up", "")),
    }


def _row(one: Mapping[str, Any], given: Mapping[str, Any]) -> dict[str, Any]:
    plug = given.get("plug", {})
    gap = f"{one['gap_text']}: {say(GAPS[one['gap']])}" if one["gap"] != "unmeasured" else ""
    if one["accepted"]:
        gap = say("{gap}, accepted: {reason}", gap=gap, reason=one["accepted"])
    torque = spoken(given["torque"]) if "torque" in given else ""
    if not torque and "turn_deg" in given:
        torque = say("{turn:g} deg from finger-tight", turn=given["turn_deg"])
    return {
        "number": one["cylinder"],
        "plug": plug.get("part", "") or (say("the old one") if given.get("reused") else ""),
        "gap": gap,
        "threads": words(given.get("threads", "")),
        "wanted": _wanted(one),
        "torque": torque,
        "done": _done(one),
        "remarks": [remark["text"] for remark in one["remarks"]],
        "slips": [slip["text"] for slip in one["slips"]],
    }


def _wanted(one: Mapping[str, Any]) -> str:
    if not one["setting"]:
        return ""
    told = spoken(one["setting"])
    if "torque" in one["unverified"]:
        return say("{torque} (not the maker's)", torque=told)
    return told


def _done(one: Mapping[str, Any]) -> str:
    if one["fitted"]:
        return say("fitted, torqued") if one["torqued"] else say("fitted, not torqued")
    return say("open")


def _points(document: Mapping[str, Any], sheet: Mapping[str, Any]) -> Iterator[str]:
    given = document.get("refit", {}).get("points", {})
    if "gap" in given:
        yield say("points gap {gap}", gap=spoken(given["gap"]))
    if "dwell_deg" in given:
        yield say("dwell {dwell:g} deg", dwell=given["dwell_deg"])
    if "timing_deg_btdc" in given:
        yield say("timing {timing:g} deg before top", timing=given["timing_deg_btdc"])
    yield sheet["points"]["text"]


def _premix(given: Mapping[str, Any]) -> str:
    if "ratio" not in given:
        return ""
    parts = [say("premix {ratio:g} to 1", ratio=given["ratio"])]
    parts += [f"{spoken(given[name])} {words(name)}" for name in ("fuel", "oil") if name in given]
    return ", ".join(parts)


def _proof(proof: Mapping[str, Any]) -> Iterator[str]:
    if "start" in proof:
        started = say("started {how}", how=words(proof["start"]))
        yield say("did not start") if proof["start"] == "no" else started
    if "beat" in proof:
        yield say("its beat {beat}", beat=words(proof["beat"]))
    if "codes" in proof:
        yield say(CODES[proof["codes"]])
    if "drive" in proof:
        how = proof.get("drive_conditions", "")
        driven = say("driven under the conditions of the complaint")
        said = driven if proof["drive"] else say("not driven")
        yield f"{said}: {how}" if how else said
    if "complaint" in proof:
        yield say(COMPLAINT[proof["complaint"]])
    if proof.get("note"):
        yield proof["note"]
