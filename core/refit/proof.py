"""Before and after side by side, and what of the proof is still open."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from core.caution import Caution
from core.document.readings import final_of
from core.quantities import spoken
from core.refit.slips import pressure_slip

CODES = {
    "not-cleared": "codes not cleared",
    "stay-clear": "codes cleared and still clear",
    "came-back": "codes cleared, and they came back",
}
COMPLAINT = {
    "gone": "the complaint is gone",
    "better": "the complaint is better, not gone",
    "same": "the complaint is as before",
    "worse": "the complaint is worse",
}


@dataclass(frozen=True)
class BeforeAfter:
    """One kind of reading on one cylinder, as it was found and as it is now."""

    what: str
    cylinder: int
    before: str
    after: str


def before_and_after(document: Mapping[str, Any]) -> list[BeforeAfter]:
    """Every reading that has an after, in the order of kinds, then of cylinders."""
    proof = {one["cylinder"]: one for one in document.get("proof", {}).get("cylinders", [])}
    refit = {one["cylinder"]: one for one in document.get("refit", {}).get("cylinders", [])}
    numbers = range(1, document["engine"]["cylinders"] + 1)
    return [
        row
        for made in (_gaps, _pressures, _balance, _misfires)
        for number in numbers
        for row in made(document, number, proof.get(number, {}), refit.get(number, {}))
    ]


def _gaps(
    document: Mapping[str, Any], number: int, _: Mapping[str, Any], refit: Mapping[str, Any]
) -> Iterator[BeforeAfter]:
    own = refit.get("plug", {}).get("gap")
    records = {one["number"]: one for one in document.get("cylinders", [])}
    old = records.get(number, {}).get("plug", {}).get("gap")
    if own:
        yield BeforeAfter("gap", number, spoken(old) if old else "", spoken(own))


def _pressures(
    document: Mapping[str, Any], number: int, proof: Mapping[str, Any], _: Mapping[str, Any]
) -> Iterator[BeforeAfter]:
    if "pressure" in proof:
        found = dry_before(document, number)
        before = spoken(found, 4) if found else ""
        yield BeforeAfter("compression", number, before, spoken(proof["pressure"], 4))


def dry_before(document: Mapping[str, Any], number: int) -> dict[str, Any] | None:
    """The last dry reading of a cylinder before the repair, as it was read."""
    found = None
    for test in document.get("tests", {}).get("compression", []):
        for item in test.get("readings", []):
            if test["kind"] == "dry" and item["cylinder"] == number:
                found = final_of(item) or found
    return found


def proof_slips(document: Mapping[str, Any]) -> Iterator[Caution]:
    """Pressures read again that were probably written in another unit."""
    for one in document.get("proof", {}).get("cylinders", []):
        before = dry_before(document, one["cylinder"])
        if "pressure" in one and before:
            path = f"/proof/cylinders/{one['cylinder']}/pressure"
            yield from pressure_slip(one["pressure"], before, path)


def _balance(
    document: Mapping[str, Any], number: int, proof: Mapping[str, Any], _: Mapping[str, Any]
) -> Iterator[BeforeAfter]:
    if "rpm_drop" not in proof and "felt" not in proof:
        return
    found = _of_test(document, "balance", number)
    yield BeforeAfter("balance", number, _drop(found), _drop(proof))


def _misfires(
    document: Mapping[str, Any], number: int, proof: Mapping[str, Any], _: Mapping[str, Any]
) -> Iterator[BeforeAfter]:
    if "misfires" not in proof:
        return
    found = _of_test(document, "misfires", number)
    before = str(found["count"]) if "count" in found else ""
    yield BeforeAfter("misfires", number, before, str(proof["misfires"]))


def _of_test(document: Mapping[str, Any], test: str, number: int) -> Mapping[str, Any]:
    rows = document.get("tests", {}).get(test, [])
    return next((one for one in rows if one["cylinder"] == number), {})


def _drop(given: Mapping[str, Any]) -> str:
    if "rpm_drop" in given:
        return f"{given['rpm_drop']:g} rpm"
    return str(given.get("felt", ""))


def still_open(document: Mapping[str, Any]) -> list[str]:
    """What the proof lacks, in the order in which it is done."""
    proof = document.get("proof", {})
    codes = document.get("inspection", {}).get("trouble_codes", [])
    complaints = document.get("inspection", {}).get("complaints", [])
    wanted = [
        ("start", "started", True),
        ("beat", "listened to", True),
        ("codes", "codes cleared and looked at again", bool(codes)),
        ("drive", "driven under the conditions of the complaint", bool(complaints)),
        ("complaint", "the complaint asked after", bool(complaints)),
        ("follow_up", "a date to look again", True),
    ]
    missing = [text for field, text, applies in wanted if applies and field not in proof]
    tools = document.get("refit", {})
    if "tools_out" in tools and tools.get("tools_back") != tools["tools_out"]:
        missing.insert(
            0, f"tools: {tools['tools_out']} went out, {tools.get('tools_back', 0)} back"
        )
    return missing
