"""Before and after side by side, and what of the proof is still open."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from core.caution import Caution
from core.document.readings import final_of
from core.document.records import Document, ProvenCylinder, RefitCylinder
from core.language import later, say, word_said
from core.quantities import Figure, spoken
from core.refit.slips import pressure_slip

CODES = {
    "not-cleared": later("codes not cleared"),
    "stay-clear": later("codes cleared and still clear"),
    "came-back": later("codes cleared, and they came back"),
}
COMPLAINT = {
    "gone": later("the complaint is gone"),
    "better": later("the complaint is better, not gone"),
    "same": later("the complaint is as before"),
    "worse": later("the complaint is worse"),
}


@dataclass(frozen=True)
class BeforeAfter:
    """One kind of reading on one cylinder, as it was found and as it is now."""

    what: str
    cylinder: int
    before: str
    after: str


def before_and_after(document: Document) -> list[BeforeAfter]:
    """Every reading that has an after, in the order of kinds, then of cylinders."""
    proof = {one.cylinder: one for one in document.proof.cylinders}
    refit = {one.cylinder: one for one in document.refit.cylinders}
    numbers = range(1, document.engine.cylinders + 1)
    return [
        row
        for made in (_gaps, _pressures, _balance, _misfires)
        for number in numbers
        for row in made(
            document,
            proof.get(number) or ProvenCylinder(number),
            refit.get(number) or RefitCylinder(number),
        )
    ]


def _gaps(document: Document, _: ProvenCylinder, refit: RefitCylinder) -> Iterator[BeforeAfter]:
    own, old = refit.plug.gap, document.cylinder(refit.cylinder).plug.gap
    if own:
        yield BeforeAfter("gap", refit.cylinder, spoken(old) if old else "", spoken(own))


def _pressures(
    document: Document, proof: ProvenCylinder, _: RefitCylinder
) -> Iterator[BeforeAfter]:
    if proof.pressure:
        found = dry_before(document, proof.cylinder)
        before = spoken(found, 4) if found else ""
        yield BeforeAfter("compression", proof.cylinder, before, spoken(proof.pressure, 4))


def dry_before(document: Document, number: int) -> Figure | None:
    """The last dry reading of a cylinder before the repair, as it was read."""
    found = None
    for test in document.tests.compression:
        for item in test.readings:
            if test.kind == "dry" and item.cylinder == number:
                found = final_of(item) or found
    return found


def proof_slips(document: Document) -> Iterator[Caution]:
    """Pressures read again that were probably written in another unit."""
    for one in document.proof.cylinders:
        before = dry_before(document, one.cylinder)
        if one.pressure and before:
            path = f"/proof/cylinders/{one.cylinder}/pressure"
            yield from pressure_slip(one.pressure, before, path)


def _balance(document: Document, proof: ProvenCylinder, _: RefitCylinder) -> Iterator[BeforeAfter]:
    now = _drop(proof.rpm_drop, proof.felt)
    if not now:
        return
    own = (one for one in document.tests.balance if one.cylinder == proof.cylinder)
    found = next((_drop(one.rpm_drop, one.felt) for one in own), "")
    yield BeforeAfter("balance", proof.cylinder, found, now)


def _misfires(document: Document, proof: ProvenCylinder, _: RefitCylinder) -> Iterator[BeforeAfter]:
    if proof.misfires is None:
        return
    own = (one.count for one in document.tests.misfires if one.cylinder == proof.cylinder)
    found = next(own, None)
    before = "" if found is None else str(found)
    yield BeforeAfter("misfires", proof.cylinder, before, str(proof.misfires))


def _drop(rpm_drop: float | None, felt: str | None) -> str:
    if rpm_drop is not None:
        return say("{drop:g} rpm", drop=rpm_drop)
    return word_said(felt) if felt else ""


def still_open(document: Document) -> list[str]:
    """What the proof lacks, in the order in which it is done."""
    proof, refit = document.proof, document.refit
    coded, complained = document.inspection.trouble_codes, document.inspection.complaints
    wanted = [
        (proof.start, say("started"), True),
        (proof.beat, say("listened to"), True),
        (proof.codes, say("codes cleared and looked at again"), coded),
        (proof.drive, say("driven under the conditions of the complaint"), complained),
        (proof.complaint, say("the complaint asked after"), complained),
        (proof.follow_up, say("a date to look again"), True),
    ]
    missing = [text for said, text, applies in wanted if applies and said is None]
    if refit.tools_out is not None and refit.tools_back != refit.tools_out:
        tools = say(
            "tools: {out} went out, {back} back", out=refit.tools_out, back=refit.tools_back or 0
        )
        missing.insert(0, tools)
    return missing
