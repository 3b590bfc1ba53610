"""What a report says: one inspection, signed or not yet, in the units that were asked for."""

from __future__ import annotations

import base64
import json
from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from django.utils import timezone

from core.assessment import Assessment
from core.comparison.board import board, orders
from core.document.job import cylinders_of_job
from core.document.records import Document
from core.document.units import in_units, told_in_units
from core.history.story import fault_said
from core.judgement.claims import claimed
from core.knowledge import knowledge
from core.language import (
    ENGLISH,
    begun,
    cylinders_said,
    date_said,
    day_said,
    later,
    number_said,
    say,
    spoken_language,
)
from core.telling import client_answer, field_said, stands_open
from core.telling.claim import words as client_words
from server.inspections.models import Inspection
from server.photos.models import Photo
from server.photos.services import opened
from server.reports import drawings
from server.reports.letters import missing
from server.reports.models import Signing
from server.reports.record import record_part
from server.reports.refit import refit_content
from server.reports.services import as_signed, last_signed, standing
from server.reports.words import words
from server.weigher import assess

GRADE_WORDS: Mapping[str, str] = knowledge().consequences["grade_words"]
OCCASIONS = {
    "pre-purchase": later("before purchase"),
    "rebuild": later("before a rebuild"),
    "diagnosis": later("to find a fault"),
    "routine": later("routine inspection"),
}
TESTS = {
    "dry compression": later("dry compression"),
    "wet compression": later("wet compression"),
    "leakdown": later("leak-down"),
    "borescope": later("a look inside by borescope"),
    "spark": later("spark"),
    "balance": later("cut-out balance"),
}
LIABILITY = later(
    "An opinion on what was examined on the day; no certificate and no warranty. "
    "Local rules, the engine maker's limits and licensed people go before it."
)
REASONS_SHOWN = 4
BASES = {"seen": later("seen"), "rule": later("by the rule")}
OWN = ("cylinder", "pair", "some")
MOST_PHOTOS, MOST_ACTS = 24, 3
LEAST_FACTOR, MOST_FACTOR = 1.15, 1000


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
    weighed = as_signed(signing) if signing else assess(document)
    shown, assessment = in_units(document, units), told_in_units(weighed, units)
    typed = Document.of(shown)
    read = Assessment.of(assessment)
    answer = client_answer(typed, read)
    ways = orders(typed.engine)
    groups = ways.get("position", ways["number"])
    strips = board(shown, assessment)
    records = {one["number"]: one for one in shown.get("cylinders", [])}
    by_number = {one["number"]: one for one in assessment["cylinders"]}
    left = assessment["engine"].get("as_left")
    now = left or assessment["engine"]
    suspected = assessment["engine"]["most_suspect"]
    pictures = list(_photos(inspection, shown)) if photos else []
    return {
        "shop": inspection.shop,
        "client": inspection.engine.client,
        "inspector": signing.content["signed"]["by"] if signing else _name(inspection),
        "signing": signing,
        "amended": inspection.signings.filter(reopened_at__isnull=False).exists(),
        "amending": signing is not None and not signing.stands,
        "made_at": inspection.shop.when(timezone.now()),
        "signed_at": inspection.shop.when(signing.at) if signing else "",
        "signed_day": date_said(inspection.shop.at(signing.at)) if signing else "",
        "liability": inspection.shop.liability or say(LIABILITY),
        "document": shown,
        "title": shown["engine"].get("title") or say("Engine"),
        "engine": shown["engine"],
        "given": shown.get("inspection", {}),
        "inspected": day_said(shown.get("inspection", {}).get("date", "")),
        "occasion": say(OCCASIONS.get(shown.get("inspection", {}).get("purpose", ""), "")),
        "usage": list(_usage(shown)),
        "told": list(_told(shown)),
        "answer": answer,
        "assessment": assessment,
        "verdict": assessment["engine"],
        "left": left,
        "stands_open": [
            one for one in stands_open(typed, read.warnings) if not left or one not in left["open"]
        ],
        "grade": now["grade"],
        "grade_words": say(GRADE_WORDS[now["grade"]]),
        "found_words": say(GRADE_WORDS[assessment["engine"]["grade"]]),
        "grade_mark": drawings.grade_svg(now["grade"]),
        "running": now["may_run"],
        "judgement": shown.get("judgement", {}),
        "plan": drawings.plan(shown, assessment, answer.states),
        "shared": list(_shared(assessment)),
        "suspects": [
            _suspect(by_number[number], shown, pictures, assessment) for number in suspected
        ],
        "next_tests": next_acts(assessment),
        "plugs": [[_plug(one, records, by_number[one]) for one in group] for group in groups],
        "strips": [{"strip": one, "drawing": drawings.strip(one, groups)} for one in strips],
        "specification": list(_figures(shown["engine"].get("specification", {}))),
        "refit": refit_content(shown),
        "not_inspected": list(_not_inspected(shown, assessment)),
        "grades_rule": say(knowledge().consequences["grades"]["told"]),
        "glossary": [(say(word), say(told)) for word, told in client_words()["glossary"]["terms"]],
        "house": shown.get("house_rules", {}).get("name", "") or say("the default rules"),
        "photos": [one for one in pictures if one["cylinder"] not in suspected],
        "record": record_part(
            inspection, document, signing.sequence if signing else inspection.sequence, units
        ),
        "logo": base64.b64encode(bytes(inspection.shop.logo)).decode(),
        "units": units,
        "language": spoken_language(),
        "in_english": signing is not None
        and weighed is signing.content["assessment"]
        and spoken_language() != ENGLISH,
        "cylinders_told": say("1 cylinder")
        if shown["engine"]["cylinders"] == 1
        else say("{cylinders} cylinders", cylinders=shown["engine"]["cylinders"]),
        "missing_letters": missing(json.dumps(shown, ensure_ascii=False) + inspection.shop.name),
    }


def _name(inspection: Inspection) -> str:
    return inspection.opened_by.name if inspection.opened_by else ""


def _plug(
    number: int, records: Mapping[int, Mapping[str, Any]], said: Mapping[str, Any]
) -> dict[str, Any]:
    record = records.get(number, {"number": number})
    return {
        "number": number,
        "drawing": drawings.plug(record),
        "words": drawings.plug_told(record),
        "action": words(said["plug_action"]),
        "reason": said.get("plug_reason", ""),
    }


def _usage(document: Mapping[str, Any]) -> Iterator[str]:
    """How far it had gone, and its plugs."""
    given = document.get("inspection", {})
    if "odometer" in given:
        ran = _amount(given["odometer"])
        yield say("{hours} run", hours=ran) if given["odometer"]["unit"] == "h" else ran
    if "plug_distance" in given:
        yield say("plugs {run} old", run=_amount(given["plug_distance"]))
    if "date" in given:
        yield say("inspected {day}", day=day_said(given["date"]))


def _amount(raw: Mapping[str, Any]) -> str:
    unit = say("hours") if raw["unit"] == "h" else raw["unit"]
    return f"{number_said(format(raw['value'], ',.0f'))} {unit}"


def _told(document: Mapping[str, Any]) -> Iterator[tuple[str, str]]:
    """What was said of the engine before, and what was noted beside the plugs."""
    given = document.get("inspection", {})
    if given.get("complaints"):
        yield say("Complained of"), ", ".join(words(one) for one in given["complaints"])
    when = [*given.get("complaint_when", []), given.get("complaint_how_often", "")]
    if any(when):
        yield say("When"), ", ".join(words(one) for one in when if one)
    if given.get("trouble_codes"):
        yield say("Codes stored"), ", ".join(given["trouble_codes"])
    for one in given.get("findings", []):
        yield begun(one.get("place") or say("Found")), one.get("text", "")
    for one in document.get("work", {}).get("damage", []):
        yield say("Damage, {when}", when=words(one.get("when", ""))), one.get("what", "")
    if given.get("note"):
        yield say("Note"), given["note"]


def _because(fault: Mapping[str, Any]) -> list[dict[str, str]]:
    return [
        {
            "side": say("for") if one["weight"] > 0 else say("against"),
            "finding": one["finding"],
            "strength": likelier(one["weight"]),
        }
        for one in fault["because"][:REASONS_SHOWN]
    ]


def likelier(bits: float) -> str:
    """What a weight in bits does, as a reader says it: eight times likelier, or less likely."""
    factor = 2 ** abs(bits)
    if factor < LEAST_FACTOR:
        return say("hardly matters")
    if factor >= MOST_FACTOR:
        told = say("over {factor:,}", factor=MOST_FACTOR)
    else:
        told = number_said(f"{factor:.0f}" if factor >= 3 else f"{factor:.1f}")
    if bits > 0:
        return say("{factor} times likelier", factor=told)
    return say("{factor} times less likely", factor=told)


def _suspect(
    one: Mapping[str, Any],
    document: Mapping[str, Any],
    pictures: list[dict[str, Any]],
    assessment: Mapping[str, Any],
) -> dict[str, Any]:
    own = document.get("judgement", {}).get("cylinders", [])
    overruled = next((other for other in own if other["cylinder"] == one["number"]), None)
    claims = [
        claim
        for claim in assessment["engine"].get("claims", ())
        if one["number"] in claim["cylinders"] and claim["scope"] in OWN
    ]
    return {
        "number": one["number"],
        "mark": drawings.grade_svg(one["grade"]),
        "words": say(GRADE_WORDS[one["grade"]]),
        "faults": [_claim(claim, one["faults"]) for claim in claims],
        "rivals_told": "; ".join(one["rivals"]),
        "odd": one["odd"],
        "photos": [photo for photo in pictures if photo["cylinder"] == one["number"]],
        "overruled": overruled
        and {
            **overruled,
            "label": fault_said(overruled["fault"]) if "fault" in overruled else "",
        },
    }


def _claim(claim: Mapping[str, Any], weighed: Sequence[Mapping[str, Any]]) -> dict[str, Any]:
    """One claim with what speaks for and against its likeliest fault."""
    basis = BASES.get(claim["basis"])
    first = next((one for one in weighed if one["fault"] in claim["faults"][:1]), None)
    return {
        "label": claim["text"],
        "chance": say(basis) if basis else claimed(claim["probability"]),
        "because": _because(first) if first else [],
    }


def _shared(assessment: Mapping[str, Any]) -> Iterator[dict[str, Any]]:
    """What is claimed of what several cylinders have in common."""
    told = {(one["fault"], one["name"]): one for one in assessment.get("shared", ())}
    for claim in assessment["engine"].get("claims", ()):
        if claim["scope"] not in OWN:
            faults = [(fault, claim["name"] or "engine") for fault in claim["faults"][:1]]
            yield _claim(claim, [told[key] for key in faults if key in told])


def next_acts(assessment: Mapping[str, Any]) -> list[dict[str, Any]]:
    """The acts that tell most, as they are said."""
    return [_test(one) for one in assessment["next_tests"][:MOST_ACTS]]


def _test(test: Mapping[str, Any]) -> dict[str, Any]:
    label = say(knowledge().tests[test["test"]]["label"])
    numbers = cylinders_said(test["cylinders"]) if test["cylinders"] else ""
    takes = say("about {minutes:.0f} minutes", minutes=test["minutes"])
    return {**test, "label": label, "numbers": numbers, "takes": takes}


def _figures(specification: Mapping[str, Any]) -> Iterator[dict[str, str]]:
    """The specification as printed, each figure with where it comes from."""
    sources = specification.get("sources", {})
    for name, value in specification.items():
        if name != "sources":
            shown = field_said(value, "engine", "specification", name)
            source = words(sources[name]) if name in sources else say("source not said")
            yield {"name": words(name), "value": shown, "source": source}


def _not_inspected(
    document: Mapping[str, Any], assessment: Mapping[str, Any]
) -> Iterator[dict[str, str]]:
    """What nobody looked at, whether it was said or is plain from the record."""
    for one in document.get("inspection", {}).get("not_inspected", []):
        yield {"item": one["item"], "reason": one.get("reason", "")}
    job = cylinders_of_job(Document.of(document))
    outside = [one["number"] for one in assessment["cylinders"] if one["number"] not in job]
    if outside:
        yield {"item": _of_cylinders(outside), "reason": say("not part of this job")}
    missing: dict[str, list[str]] = {}
    for one in assessment["cylinders"]:
        for text in one["unseen"] if one["number"] not in outside else []:
            missing.setdefault(text, []).append(str(one["number"]))
    for text, numbers in missing.items():
        yield {"item": text, "reason": _of_cylinders(numbers)}
    tests = document.get("tests", {})
    kinds = {test["kind"] for test in tests.get("compression", [])}
    made = {*tests, *(f"{kind} compression" for kind in kinds)}
    if any("borescope" in record for record in document.get("cylinders", [])):
        made.add("borescope")
    told = " ".join(
        one["item"].lower() for one in document.get("inspection", {}).get("not_inspected", [])
    )
    for name, item in TESTS.items():
        if name not in made and item not in told:
            yield {"item": say(item), "reason": say("not made")}
    for step in document.get("work", {}).get("steps", []):
        if step.get("state") == "skipped":
            yield {"item": words(step["id"]), "reason": step.get("reason") or say("skipped")}


def _photos(inspection: Inspection, document: Mapping[str, Any]) -> Iterator[dict[str, Any]]:
    """The photos of the record, inlined: a report needs nothing from elsewhere."""
    named: list[tuple[int, str, str]] = [
        (record["number"], cylinders_said([record["number"]]), name)
        for record in document.get("cylinders", [])
        for name in record.get("photos", [])
    ]
    named += [
        (0, f"{words(one.get('when', ''))}: {one.get('what', '')}", name)
        for one in document.get("work", {}).get("damage", [])
        for name in one.get("photos", [])
    ]
    named += [
        (0, say("the engine"), name) for name in document.get("inspection", {}).get("photos", [])
    ]
    wanted = [(*one, name.removeprefix("sha256:")) for *one, name in named[:MOST_PHOTOS]]
    known = {
        photo.sha256: photo
        for photo in Photo.objects.filter(
            shop_id=inspection.shop_id, sha256__in=[one[-1] for one in wanted]
        )
    }
    for cylinder, caption, sha256 in wanted:
        if sha256 in known:
            try:
                with opened(known[sha256]) as picture:
                    data = base64.b64encode(picture.read()).decode()
            except FileNotFoundError:
                yield {
                    "cylinder": cylinder,
                    "caption": say("{caption}: its file is lost", caption=caption),
                    "source": "",
                }
                continue
            source = f"data:image/jpeg;base64,{data}"
            yield {"cylinder": cylinder, "caption": caption, "source": source}


def digest_shown(signing: Signing) -> str:
    """A digest in groups of eight, for the eye."""
    return " ".join(signing.digest[at : at + 8] for at in range(0, 64, 8))


def _of_cylinders(numbers: Sequence[object]) -> str:
    return cylinders_said(numbers)
