"""The refit's page of a report: what went in, how it was set, and whether the fix was proved."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

from core.refit import refit_sheet
from core.refit.proof import CODES, COMPLAINT
from server.reports.words import spoken, words

NOT_MAKERS = " (not the maker's)"
GAPS = {"in": "in", "out": "out", "cannot-say": "cannot say", "unmeasured": "not measured"}


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
        "steps_open": [one["title"] for one in sheet["steps"] if one["state"] != "done"],
        "points": list(_points(document, sheet)) if sheet["points"] else [],
        "premix": _premix((refit or {}).get("premix", {})),
        "kept": (refit or {}).get("kept", {}),
        "proof": list(_proof(proof)) if proof else [],
        "follow_up": (proof or {}).get("follow_up", ""),
    }


def _row(one: Mapping[str, Any], given: Mapping[str, Any]) -> dict[str, Any]:
    plug = given.get("plug", {})
    gap = f"{one['gap_text']}: {GAPS[one['gap']]}" if one["gap"] != "unmeasured" else ""
    gap += f", accepted: {one['accepted']}" if one["accepted"] else ""
    torque = spoken(given["torque"]) if "torque" in given else ""
    if not torque and "turn_deg" in given:
        torque = f"{given['turn_deg']:g} deg from finger-tight"
    return {
        "number": one["cylinder"],
        "plug": plug.get("part", "") or ("the old one" if given.get("reused") else ""),
        "gap": gap,
        "threads": words(given.get("threads", "")),
        "wanted": f"{spoken(one['setting'])}{NOT_MAKERS if 'torque' in one['unverified'] else ''}"
        if one["setting"]
        else "",
        "torque": torque,
        "done": "fitted, torqued"
        if one["fitted"] and one["torqued"]
        else "fitted, not torqued"
        if one["fitted"]
        else "open",
        "remarks": [remark["text"] for remark in one["remarks"]],
        "slips": [slip["text"] for slip in one["slips"]],
    }


def _points(document: Mapping[str, Any], sheet: Mapping[str, Any]) -> Iterator[str]:
    given = document.get("refit", {}).get("points", {})
    if "gap" in given:
        yield f"points gap {spoken(given['gap'])}"
    if "dwell_deg" in given:
        yield f"dwell {given['dwell_deg']:g} deg"
    if "timing_deg_btdc" in given:
        yield f"timing {given['timing_deg_btdc']:g} deg before top"
    yield sheet["points"]["text"]


def _premix(given: Mapping[str, Any]) -> str:
    if "ratio" not in given:
        return ""
    parts = [f"premix {given['ratio']:g} to 1"]
    parts += [f"{spoken(given[name])} {name}" for name in ("fuel", "oil") if name in given]
    return ", ".join(parts)


def _proof(proof: Mapping[str, Any]) -> Iterator[str]:
    if "start" in proof:
        started = {"no": "did not start"}.get(proof["start"], f"started {words(proof['start'])}")
        yield started
    if "beat" in proof:
        yield f"its beat {proof['beat']}"
    if "codes" in proof:
        yield CODES[proof["codes"]]
    if "drive" in proof:
        how = proof.get("drive_conditions", "")
        said = "driven under the conditions of the complaint" if proof["drive"] else "not driven"
        yield f"{said}: {how}" if how else said
    if "complaint" in proof:
        yield COMPLAINT[proof["complaint"]]
    if proof.get("note"):
        yield proof["note"]
