"""Every change of an inspection. Callers have checked that the person may see and write it."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from django.core.cache import cache
from django.db import models, transaction

from core.diagnosis import assess, rules_version
from core.document import FORMAT, VERSION, check_document, read_document
from core.document.observations import apply, fold, unfold
from core.document.renumbering import renumbering
from core.errors import CoreError
from server.engines.models import Engine
from server.engines.services import change, of_document
from server.inspections.finding import suspected, words
from server.inspections.models import Inspection, Observation
from server.shops.models import Shop, User
from server.shops.rules import in_force

REASONS_KEPT = 3600  # Seconds.
# Large, and made anew with every entry: not worth reading before.
DERIVED = ("assessment", "words", "verdict", "engine__data", "engine__words")


@dataclass(frozen=True)
class Said:
    """One observation as a client sends it."""

    client_id: uuid.UUID
    path: str
    value: Any
    device: uuid.UUID | None = None
    seen: int | None = None  # The sequence that was known where it was made.


def open_inspection(*, engine: Engine, by: User, fields: dict[str, Any]) -> Inspection:
    """Open an inspection of an engine; it carries the engine as it is today.

    `fields` are fields of the contract's `inspection`: date, purpose and the like.
    """
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
    return _begin(engine=engine, by=by, document=check_document(raw))


def import_document(*, shop: Shop, by: User | None, data: bytes) -> Inspection:
    """Import a document: all of it or, refused with every reason, nothing."""
    document = read_document(data)
    with transaction.atomic():
        engine = of_document(shop=shop, data=document["engine"])
        return _begin(engine=engine, by=by, document=document)


@transaction.atomic
def _begin(*, engine: Engine, by: User | None, document: dict[str, Any]) -> Inspection:
    inspection = Inspection(engine=engine, shop_id=engine.shop_id, opened_by=by)
    said = [Said(uuid.uuid4(), path, value) for path, value in unfold(document)]
    _derive(inspection, fold((one.path, one.value) for one in said))
    inspection.save()
    _add(inspection, said, by)
    inspection.save(update_fields=["sequence"])
    return inspection


@transaction.atomic
def record(*, inspection: Inspection, said: Sequence[Said], by: User) -> Inspection:
    """Add observations to the log once, all of them or none.

    Those whose client_id is already in the log are left out, so sending a batch again changes
    nothing; two people's batches are put in order by a lock on the inspection.

    Raises
    ------
    CoreError, DocumentRefused
        If the document would break the contract; nothing is written then.
    """
    rows = Inspection.objects.select_for_update(of=("self",)).select_related("engine", "opened_by")
    locked = rows.defer(*DERIVED).get(pk=inspection.pk)
    known = set(
        locked.observations.filter(client_id__in=[one.client_id for one in said]).values_list(
            "client_id", flat=True
        )
    )
    fresh = [one for one in said if one.client_id not in known]
    if len({one.client_id for one in fresh}) != len(fresh):
        raise CoreError("twice", "/observations", None, "each client_id once in a batch")
    if not fresh:
        return locked
    for one in fresh:
        if one.path.startswith(("/format", "/version")):
            raise CoreError("path", one.path, one.value, "a field that can be observed")
    if any(not one.path.startswith("/outcome") for one in fresh) and locked.signed_off:
        raise CoreError("signed-off", fresh[0].path, None, "an amendment to be opened first")
    _derive(locked, apply(locked.document, [(one.path, one.value) for one in fresh]))
    _add(locked, fresh, by, _overridden(locked, fresh))
    locked.save()
    if any(one.path.startswith("/engine/") for one in fresh):
        _tell_engine(locked)
    return locked


def _tell_engine(inspection: Inspection) -> None:
    """What the newest inspection learns of its engine is known to the next one."""
    newer = inspection.engine.inspections.filter(opened__gt=inspection.opened)
    if not newer.exists():
        change(engine=inspection.engine, data=inspection.document["engine"])


def renumber(
    *, inspection: Inspection, numbers: Mapping[int, int], by: User, device: uuid.UUID | None
) -> Inspection:
    """Give the cylinders other numbers, all that was recorded with them, as one batch of the log.

    Raises
    ------
    CoreError
        If a cylinder is left out or named twice.
    """
    with transaction.atomic():
        locked = Inspection.objects.select_for_update().get(pk=inspection.pk)
        moves = renumbering(locked.document, numbers)
        said = [Said(uuid.uuid4(), path, value, device) for path, value in moves]
        return record(inspection=locked, said=said, by=by)


def up_to_date(inspection: Inspection) -> Inspection:
    """The inspection with an assessment by today's rules, made again if it is by older ones."""
    if inspection.assessment.get("rules_version") == rules_version():
        return inspection
    with transaction.atomic():
        locked = Inspection.objects.select_for_update().get(pk=inspection.pk)
        _derive(locked, locked.document)
        locked.save(
            update_fields=["assessment", "grade", "verdict", "words", "suspected", "follow_up"]
        )
    return locked


def reasons(inspection: Inspection) -> dict[str, Any]:
    """The assessment with what speaks for and against each fault.

    Weighing every finding takes longer than the answer, so nobody waits for it while recording:
    it is made when it is looked at, and kept for as long as nothing is recorded.
    """
    key = f"reasons-{inspection.pk}-{inspection.sequence}-{rules_version()}"
    known: dict[str, Any] | None = cache.get(key)
    if known is None:
        known = assess(inspection.document, advise=False)
        cache.set(key, known, REASONS_KEPT)
    return known


def _overridden(inspection: Inspection, said: Sequence[Said]) -> dict[uuid.UUID, Observation]:
    """What other devices said of the same things and these could not have known, by client_id."""
    seen = [one.seen for one in said if one.seen is not None]
    if not seen or min(seen) >= inspection.sequence:
        return {}
    rows = inspection.observations.filter(
        sequence__gt=min(seen), path__in={one.path for one in said}
    )
    if len(devices := {one.device for one in said}) == 1:
        rows = rows.filter(~models.Q(device=devices.pop()) | models.Q(device=None))
    by_path: dict[str, list[Observation]] = {}
    for row in rows.order_by("sequence"):
        by_path.setdefault(row.path, []).append(row)
    found = {}
    for one in said:
        others = [
            row
            for row in by_path.get(one.path, [])
            if one.seen is not None and row.sequence > one.seen and row.device != one.device
        ]
        if others and others[-1].value != one.value:
            found[one.client_id] = others[-1]
    return found


def _add(
    inspection: Inspection,
    said: Sequence[Said],
    by: User | None,
    overridden: Mapping[uuid.UUID, Observation] | None = None,
) -> None:
    first = inspection.sequence + 1
    Observation.objects.bulk_create(
        Observation(
            inspection=inspection,
            client_id=one.client_id,
            sequence=first + offset,
            path=one.path,
            value=one.value,
            by=by,
            device=one.device,
            overrode=(overridden or {}).get(one.client_id),
        )
        for offset, one in enumerate(said)
    )
    inspection.sequence += len(said)


def _derive(inspection: Inspection, document: dict[str, Any]) -> None:
    """Everything that follows from a canonical document."""
    inspection.document = document
    inspection.assessment = assess(inspection.document, explain=False)
    inspection.grade = inspection.assessment["engine"]["grade"]
    inspection.verdict = inspection.assessment["engine"]["verdict"]
    inspection.words = words(inspection)
    inspection.suspected = suspected(inspection.assessment)
    inspection.has_outcome = "outcome" in inspection.document
    inspection.date = _day(document.get("inspection", {}).get("date"))
    proof = document.get("proof", {})
    inspection.follow_up = None if proof.get("followed_up") else _day(proof.get("follow_up"))


def _day(text: str | None) -> date | None:
    return date.fromisoformat(text) if text else None
