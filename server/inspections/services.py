"""Opening, importing and bringing up to date; what is recorded goes through `log`.

Callers have checked that the person may see and write the inspection.
"""

from __future__ import annotations

import uuid
from datetime import date
from typing import Any

from django.core.cache import cache
from django.db import transaction
from django.db.models import Q

from core.document import FORMAT, VERSION, check_document, read_document
from core.document.observations import fold, unfold
from core.errors import CoreError
from core.judgement import rules_version
from core.language import spoken_language
from server import turns
from server.engines.models import Engine
from server.engines.services import held, of_document
from server.inspections.derive import follow, weigh
from server.inspections.log import begin
from server.inspections.models import Inspection
from server.shops.models import Shop, User
from server.shops.rules import in_force
from server.weigher import assess

FOLLOWING = (
    "assessment", "weighed", "rules", "grade", "grade_left", "verdict", "suspected",
)  # fmt: skip
REASONS_KEPT = 3600  # Seconds.


@transaction.atomic
def open_inspection(
    *,
    engine: Engine,
    by: User,
    fields: dict[str, Any],
    id: uuid.UUID | None = None,
    device: uuid.UUID | None = None,
    sent_by: User | None = None,
) -> Inspection:
    """Open an inspection of an engine; it carries the engine as it is today.

    `fields` are fields of the contract's `inspection`: date, purpose and the like. With an id that
    was made where it was opened, to open it again changes nothing.

    Raises
    ------
    CoreError
        If the id belongs to an inspection of another engine.
    """
    engine = held(engine)
    if id is not None and (known := Inspection.objects.filter(pk=id).first()):
        if known.engine_id != engine.pk:
            raise CoreError("id", "/id", id, "an id that is not taken")
        return known
    raw = {
        "format": FORMAT,
        "version": VERSION,
        "engine": engine.data,
        "inspection": {"date": date.today().isoformat(), **fields},  # noqa: DTZ011
    }
    rules = in_force(engine.shop)
    if rules:
        named = rules.rules.get("name", "House rules")
        raw["house_rules"] = {**rules.rules, "name": f"{named}, version {rules.version}"}
    checked = check_document(raw)
    return _begin(engine=engine, by=by, document=checked, id=id, device=device, sent_by=sent_by)


def import_document(*, shop: Shop, by: User | None, data: bytes) -> Inspection:
    """Import a document: all of it or, refused with every reason, nothing."""
    document = read_document(data)
    with transaction.atomic():
        engine = of_document(shop=shop, data=document["engine"])
        return _begin(engine=engine, by=by, document=document)


@transaction.atomic
def _begin(
    *,
    engine: Engine,
    by: User | None,
    document: dict[str, Any],
    id: uuid.UUID | None = None,
    device: uuid.UUID | None = None,
    sent_by: User | None = None,
) -> Inspection:
    inspection = Inspection(engine=engine, shop_id=engine.shop_id, opened_by=by)
    inspection.id = id or inspection.id
    observations = unfold(document)
    follow(inspection, fold(observations))
    weigh(inspection)
    inspection.save(force_insert=True)
    begin(inspection, observations, by, device, sent_by)
    return inspection


def up_to_date(inspection: Inspection) -> Inspection:
    """The inspection as it stands now, weighed by today's rules: once, however many ask.

    What is signed keeps the rules that it was signed under.
    """
    if _stands(inspection):
        return inspection
    with turns.weighing():
        latest = Inspection.objects.get(pk=inspection.pk)
        catch_up(latest)
    return latest


def catch_up(inspection: Inspection) -> None:
    """Weigh an inspection as it was read, unless that was done; for who has it for themselves."""
    if _stands(inspection):
        return
    weigh(inspection)
    mine = {name: getattr(inspection, name) for name in FOLLOWING}
    older = Q(weighed__lt=inspection.weighed) | ~Q(rules=inspection.rules)
    Inspection.objects.filter(older, pk=inspection.pk).update(**mine)


def _stands(inspection: Inspection) -> bool:
    weighed = inspection.weighed == inspection.sequence and inspection.rules == rules_version()
    return weighed or inspection.signed_off


def reasons(inspection: Inspection) -> dict[str, Any]:
    """The whole assessment: what speaks for and against each fault, and what to test next.

    Weighing every finding takes longer than the answer, so nobody waits for it while recording:
    it is made when it is looked at, and kept for as long as nothing is recorded. Of what is signed
    it is the one that was signed.
    """
    signing = inspection.signings.standing().first()
    if signing is not None:
        signed: dict[str, Any] = signing.content["assessment"]
        return signed
    return reasons_today(inspection)


def reasons_today(inspection: Inspection) -> dict[str, Any]:
    """The whole assessment by today's rules, whatever was signed."""
    key = f"reasons-{inspection.pk}-{inspection.sequence}-{rules_version()}-{spoken_language()}"
    known: dict[str, Any] | None = cache.get(key)
    if known is not None:
        return known
    with turns.weighing():
        known = cache.get(key)
        if known is None:
            known = assess(inspection.document)
            cache.set(key, known, REASONS_KEPT)
    return known
