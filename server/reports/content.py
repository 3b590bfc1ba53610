"""What a report says: one inspection, signed or not yet, in the units that were asked for."""

from __future__ import annotations

import base64
from collections.abc import Iterator, Mapping
from typing import Any

import msgspec
from django.utils import timezone

from core.assessment import Assessment, SharedFault
from core.comparison.board import board, orders
from core.document.job import cylinders_of_job
from core.document.records import Document, Engine
from core.document.units import in_units, told_in_units
from core.judgement import assess
from core.judgement.verdict import claimed, place_of, shared_label
from core.knowledge import knowledge
from core.planning import work_order
from server.inspections.models import Inspection
from server.photos.models import Photo
from server.reports import drawings
from server.reports.models import Signing
from server.reports.refit import refit_content
from server.reports.services import last_signed, standing
from server.reports.words import spoken, words

GRADE_WORDS = {
    "A": "sound in what was examined", "B": "serviceable, with wear", "C": "to be watched",
    "D": "repair", "E": "do not run", "U": "too little recorded to grade",
}  # fmt: skip
RUN_WORDS = {"yes": "May run.", "with-care": "May run with care.", "no": "Must not run.",
             "unknown": "May it run? Not known."}  # fmt: skip
TESTS = {
    "dry compression": "dry compression", "wet compression": "wet compression",
    "leakdown": "leak-down", "borescope": "a look inside by borescope", "spark": "spark",
    "balance": "cut-out balance",
}  # fmt: skip
REASONS_SHOWN, FAULTS_SHOWN, SHARED_FROM = 4, 3, 0.05
MOST_PHOTOS = 24


def content(
    inspection: Inspection, units: str, *, photos: bool, signed_only: bool = False
) -> dict[str, Any]:
    """Everything the template shows.

    What was signed is shown as it was signed, by its own rules; other units are a matter of
    display, and nothing is weighed again for them. To a client (`signed_only`) what was signed last
    is shown, until an amendment of it is signed as well.
    """
    signing = standing(inspection) or (signed_only and last_signed(inspection)) or None
    document = signing.content["document"] if signing else inspection.document
    weighed = signing.content["assessment"] if signing else assess(document)
    shown, assessment = in_units(document, units), told_in_units(weighed, units)
    ways = orders(Engine.of(shown["engine"]))
    groups = ways.get("position", ways["number"])
    strips = board(shown, assessment)
    records = {one["number"]: one for one in shown.get("cylinders", [])}
    left = assessment["engine"].get("as_left")
    now = left or assessment["engine"]
    return {
        "shop": inspection.shop,
        "inspector": signing.content["signed"]["by"] if signing else _name(inspection),
        "signing": signing,
        "amended": inspection.signings.filter(reopened_at__isnull=False).exists(),
        "amending": signing is not None and not signing.stands,
        "made": timezone.now(),
        "document": shown,
        "engine": shown["engine"],
        "given": shown.get("inspection", {}),
        "assessment": assessment,
        "verdict": assessment["engine"],
        "left": left,
        "work": now["work"],
        "grade_words": GRADE_WORDS[now["grade"]],
        "found_words": GRADE_WORDS[assessment["engine"]["grade"]],
        "grade_mark": drawings.grade_svg(now["grade"]),
        "running": now["may_run"],
        "may_run": RUN_WORDS[now["may_run"]["answer"]],
        "judgement": shown.get("judgement", {}),
        "plan": drawings.plan(shown, assessment),
        "shared": list(_shared(assessment)),
        "suspects": [
            _suspect(one, shown)
            for number in assessment["engine"]["most_suspect"]
            for one in assessment["cylinders"]
            if one["number"] == number
        ],
        "next_tests": [_test(one) for one in assessment["next_tests"][:3]],
        "plugs": [[_plug(number, records) for number in group] for group in groups],
        "strips": [{"strip": one, "drawing": drawings.strip(one, groups)} for one in strips],
        "specification": list(_figures(shown["engine"].get("specification", {}))),
        "evidence": [
            _evidence(one, records.get(one["number"], {})) for one in assessment["cylinders"]
        ],
        "refit": refit_content(shown),
        "not_inspected": list(_not_inspected(shown, assessment)),
        "cautions": work_order(shown)["cautions"],
        "grades_rule": knowledge().consequences["grades"]["note"],
        "house": shown.get("house_rules", {}).get("name", "the default rules"),
        "photos": list(_photos(inspection, shown)) if photos else [],
        "units": units,
    }


def _name(inspection: Inspection) -> str:
    return inspection.opened_by.name if inspection.opened_by else ""


def _plug(number: int, records: Mapping[int, Mapping[str, Any]]) -> dict[str, Any]:
    return {"number": number, "drawing": drawings.plug(records.get(number, {"number": number}))}


def _label(fault: str, scope: str) -> str:
    return knowledge().fault(fault, scope).label


def _because(fault: Mapping[str, Any]) -> list[dict[str, str]]:
    return [
        {
            "side": "for" if one["weight"] > 0 else "against",
            "finding": one["finding"],
            "bits": f"{abs(one['weight']):.1f}",
        }
        for one in fault["because"][:REASONS_SHOWN]
    ]


def _suspect(one: Mapping[str, Any], document: Mapping[str, Any]) -> dict[str, Any]:
    own = document.get("judgement", {}).get("cylinders", [])
    overruled = next((other for other in own if other["cylinder"] == one["number"]), None)
    return {
        "number": one["number"],
        "mark": drawings.grade_svg(one["grade"]),
        "words": GRADE_WORDS[one["grade"]],
        "faults": [
            {
                "label": _label(fault["fault"], "cylinder"),
                "chance": claimed(fault["probability"]),
                "because": _because(fault),
            }
            for fault in one["faults"][:FAULTS_SHOWN]
        ],
        "rivals": one["rivals"],
        "odd": one["odd"],
        "overruled": overruled
        and {
            **overruled,
            "label": _label(overruled["fault"], "cylinder") if "fault" in overruled else "",
        },
    }


def _shared(assessment: Mapping[str, Any]) -> Iterator[dict[str, Any]]:
    """What several cylinders have in common, as far as it is suspected."""
    told = Assessment.of(assessment)
    for one in told.shared or _signed_before(told):
        label = f"{place_of(one)}: {shared_label(one)}"
        yield from _one_shared(msgspec.to_builtins(one), label, one.fault, "engine")
    for pair in assessment["pairs"]:
        label = f"gasket leaking between {pair['cylinders'][0]} and {pair['cylinders'][1]}"
        yield from _one_shared(pair, label, pair["fault"], "pair")


def _signed_before(told: Assessment) -> Iterator[SharedFault]:
    """What was shared in an answer from before there was one list of it."""
    for fault in told.engine.faults:
        everyone = tuple(one.number for one in told.cylinders)
        yield SharedFault(
            fault.fault, "engine", "engine", everyone, fault.probability, fault.because
        )


def _one_shared(
    fault: Mapping[str, Any], label: str, name: str, scope: str
) -> Iterator[dict[str, Any]]:
    usual = knowledge().fault(name, scope).prior
    if fault["probability"] >= max(SHARED_FROM, 1.5 * usual):
        chance = claimed(fault["probability"])
        yield {"label": label, "chance": chance, "because": _because(fault)}


def _test(test: Mapping[str, Any]) -> dict[str, Any]:
    label = knowledge().tests[test["test"]]["label"]
    numbers = ", ".join(str(number) for number in test["cylinders"])
    return {**test, "label": label, "numbers": numbers}


def _figures(specification: Mapping[str, Any]) -> Iterator[dict[str, str]]:
    """The specification as printed, each figure with where it comes from."""
    sources = specification.get("sources", {})
    for name, value in specification.items():
        if name != "sources":
            shown = spoken(value) if isinstance(value, dict) else str(value)
            source = sources.get(name, "source not said")
            yield {"name": words(name), "value": shown, "source": source}


def _evidence(one: Mapping[str, Any], record: Mapping[str, Any]) -> dict[str, Any]:
    """What was recorded of one cylinder in words, and what was not."""
    return {
        "number": one["number"],
        "grade": one["grade"],
        "words": "; ".join(_said(record)) or "nothing recorded",
        "unseen": one["unseen"],
        "plug_action": words(one["plug_action"]),
        "plug_reason": one.get("plug_reason", ""),
    }


def _said(record: Mapping[str, Any]) -> Iterator[str]:
    for name, value in record.items():
        if name in ("number", "photos", "access"):
            continue
        if isinstance(value, dict) and "unit" in value:
            yield f"{words(name)} {spoken(value)}"
        elif isinstance(value, dict):
            yield from _said(value)
        elif isinstance(value, bool):
            yield f"{words(name)}: {'yes' if value else 'no'}"
        elif isinstance(value, list):
            yield f"{words(name)}: {', '.join(words(word) for word in value)}"
        else:
            yield f"{words(name)}: {words(str(value))}"


def _not_inspected(
    document: Mapping[str, Any], assessment: Mapping[str, Any]
) -> Iterator[dict[str, str]]:
    """What nobody looked at, whether it was said or is plain from the record."""
    for one in document.get("inspection", {}).get("not_inspected", []):
        yield {"item": one["item"], "reason": one.get("reason", "")}
    job = cylinders_of_job(Document.of(document))
    outside = [one["number"] for one in assessment["cylinders"] if one["number"] not in job]
    if outside:
        yield {"item": f"cylinder {', '.join(map(str, outside))}", "reason": "not part of this job"}
    missing: dict[str, list[str]] = {}
    for one in assessment["cylinders"]:
        for text in one["unseen"] if one["number"] not in outside else []:
            missing.setdefault(text, []).append(str(one["number"]))
    for text, numbers in missing.items():
        yield {"item": text, "reason": f"cylinder {', '.join(numbers)}"}
    tests = document.get("tests", {})
    kinds = {test["kind"] for test in tests.get("compression", [])}
    made = {*tests, *(f"{kind} compression" for kind in kinds)}
    if any("borescope" in record for record in document.get("cylinders", [])):
        made.add("borescope")
    for name, item in TESTS.items():
        if name not in made:
            yield {"item": item, "reason": "not made"}
    for step in document.get("work", {}).get("steps", []):
        if step.get("state") == "skipped":
            yield {"item": words(step["id"]), "reason": step.get("reason", "skipped")}


def _photos(inspection: Inspection, document: Mapping[str, Any]) -> Iterator[dict[str, str]]:
    """The photos of the record, inlined: a report needs nothing from elsewhere."""
    named = [
        (f"cylinder {record['number']}", name.removeprefix("sha256:"))
        for record in document.get("cylinders", [])
        for name in record.get("photos", [])
    ]
    named += [
        (f"{one.get('when', '').replace('-', ' ')}: {one.get('what', '')}", name[7:])
        for one in document.get("work", {}).get("damage", [])
        for name in one.get("photos", [])
    ]
    wanted = named[:MOST_PHOTOS]
    known = {
        photo.sha256: photo
        for photo in Photo.objects.filter(
            shop_id=inspection.shop_id, sha256__in=[sha256 for _, sha256 in wanted]
        )
    }
    for caption, sha256 in wanted:
        if sha256 in known:
            with known[sha256].file.open() as picture:
                data = base64.b64encode(picture.read()).decode()
            yield {"caption": caption, "source": f"data:image/jpeg;base64,{data}"}


def digest_shown(signing: Signing) -> str:
    """A digest in groups of eight, for the eye."""
    return " ".join(signing.digest[at : at + 8] for at in range(0, 64, 8))
