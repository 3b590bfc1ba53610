"""Adding to an inspection's log, the one way in which an inspection changes."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.db import transaction

from core.document import check_document
from core.document.log import Row, followed, inside, judged, place_of, replay
from core.document.reading import check_change
from core.document.renumbering import NUMBERING, checked_numbering
from core.errors import CoreError
from server.engines.services import learn
from server.inspections.derive import DERIVED, follow
from server.inspections.models import Inspection, Observation
from server.shops.models import User

# What an entry changes; all that is weighed follows without it.
RECORDED = (
    "document", "words", "has_outcome", "date", "follow_up", "sequence", "numbering", "conflicts",
    "changed",
)  # fmt: skip


@dataclass(frozen=True)
class Said:
    """One observation as a client sends it.

    `numbering` is how the cylinders were numbered where it was made; None means as they are here.
    `keeps` says that what stands at a path is to stand, whatever the value.
    """

    client_id: uuid.UUID
    path: str
    value: Any = None
    device: uuid.UUID | None = None
    seen: int | None = None  # The sequence that was known where it was made; None: everything.
    numbering: Sequence[int] | None = None
    made: datetime | None = None
    keeps: bool = False
    order: int | None = None  # Counts up on a device: what was said there before what.
    again: bool = False  # A person has it sent once more, after it was refused.


@transaction.atomic
def record(
    *, inspection_id: uuid.UUID, said: Sequence[Said], by: User, sent_by: User | None = None
) -> Inspection:
    """Add observations to the log once, all of them or none.

    `sent_by` is the owner who sends what somebody left on a device who was shut out since.

    Those whose client_id is already in the log are left out, so sending a batch again changes
    nothing; two people's batches are put in order by a lock on the inspection. What was said of a
    cylinder before it was given another number follows it.

    Raises
    ------
    Inspection.DoesNotExist
        If there is none that the person may see.
    CoreError, DocumentRefused
        If the document would break the contract; nothing is written then.
    """
    rows = Inspection.objects.visible_to(by).select_for_update(of=("self",))
    locked = rows.select_related("engine", "opened_by").defer(*DERIVED).get(pk=inspection_id)
    fresh = _fresh(locked, said)
    if not fresh:
        return locked
    added = _spelt(locked, fresh, by, sent_by)
    if any(not one.path.startswith("/outcome") for one in added) and locked.signed_off:
        raise CoreError("signed-off", added[0].path, None, "an amendment to be opened first")
    sent_again = {one.client_id for one in fresh if one.again}
    released = _judge(locked, added, sent_again)
    before = locked.document["engine"]
    follow(locked, _document(locked, added, released))
    locked.observations.filter(sequence__in=released).update(held=True)
    Observation.objects.bulk_create(added)
    locked.sequence += len(added)
    locked.save(update_fields=RECORDED)
    if any(one.path.startswith("/engine/") or one.path == NUMBERING for one in added):
        _tell_engine(locked, before)
    return locked


def append(
    *, inspection_id: uuid.UUID, said: Said, entry: Any, by: User, sent_by: User | None = None
) -> Inspection:
    """Put something into the list at an observation's path, whatever else joined it meanwhile."""
    with transaction.atomic():
        rows = Inspection.objects.visible_to(by).select_for_update(of=("self",))
        locked = rows.get(pk=inspection_id)
        numbers = locked.numbers
        path, _ = followed(said.path, None, said.numbering or numbers, numbers)
        known = value_at(locked.document, path)
        entries = known if isinstance(known, list) else []
        value = entries if entry in entries else [*entries, entry]
        one = Said(said.client_id, path, value, said.device, made=said.made)
        return record(inspection_id=inspection_id, said=[one], by=by, sent_by=sent_by)


def value_at(document: Any, path: str) -> Any:
    """What stands at a path of the log; None where nothing was looked at."""
    value = document
    for step in path.split("/")[1:]:
        step = step.replace("~1", "/").replace("~0", "~")
        if isinstance(value, list):
            named = ("number", "cylinder", "id", "name")
            items = (one for one in value if step in (str(one.get(key)) for key in named))
            value = next(items, None)
        else:
            value = value.get(step) if isinstance(value, dict) else None
    return value


def begin(
    inspection: Inspection,
    observations: Iterable[tuple[str, Any]],
    by: User | None,
    device: uuid.UUID | None = None,
    sent_by: User | None = None,
) -> None:
    """The first rows of a log; the inspection is saved and its document derived from them.

    With the device on which it was opened, what follows from there knows all of them.
    """
    added = [
        Observation(
            inspection=inspection,
            client_id=uuid.uuid4(),
            sequence=sequence,
            path=path,
            place=path,
            value=value,
            by=by,
            sent_by=sent_by,
            device=device,
        )
        for sequence, (path, value) in enumerate(observations, start=1)
    ]
    Observation.objects.bulk_create(added)
    inspection.sequence = inspection.weighed = len(added)
    inspection.save(update_fields=["sequence", "weighed"])


def conflicts(inspection: Inspection) -> list[dict[str, Any]]:
    """What people said differently and nobody has judged, as ConflictSerializer spells it."""
    if not inspection.conflicts:
        return []
    wanted = [one for sequences in inspection.conflicts.values() for one in sequences]
    rows = inspection.observations.filter(sequence__in=wanted).select_related("by")
    by_sequence = {row.sequence: row for row in rows}
    numbers = inspection.numbers
    first = sorted(numbers)
    return [
        {
            "path": followed(place, None, first, numbers)[0],
            "said": [
                {
                    "path": followed(row.place, None, first, numbers)[0],
                    "value": row.value,
                    "by": row.by.name if row.by else "",
                    "at": row.at,
                    "held": row.held,
                }
                for row in (by_sequence[one] for one in sequences)
            ],
        }
        for place, sequences in sorted(inspection.conflicts.items())
    ]


def _fresh(locked: Inspection, said: Sequence[Said]) -> list[Said]:
    ids = [one.client_id for one in said]
    known = set(locked.observations.filter(client_id__in=ids).values_list("client_id", flat=True))
    fresh = [one for one in said if one.client_id not in known]
    if len({one.client_id for one in fresh}) != len(fresh):
        raise CoreError("twice", "/observations", None, "each client_id once in a batch")
    for one in fresh:
        if one.path.startswith(("/format", "/version")):
            raise CoreError("path", one.path, one.value, "a field that can be observed")
    return fresh


def _spelt(
    locked: Inspection, fresh: Sequence[Said], by: User, sent_by: User | None
) -> list[Observation]:
    """The rows to be added, each in the numbers that are in force when its turn comes."""
    numbers = locked.numbers
    added = []
    for sequence, one in enumerate(fresh, start=locked.sequence + 1):
        path, value = followed(one.path, one.value, one.numbering or numbers, numbers)
        row = Observation(
            inspection=locked,
            client_id=one.client_id,
            sequence=sequence,
            path=path,
            place=place_of(path, numbers),
            value=value,
            by=by,
            sent_by=sent_by,
            made=one.made,
            device=one.device,
            seen=one.seen,
            keeps=one.keeps,
            order=one.order,
        )
        added.append(row)
        if path == NUMBERING and not one.keeps:
            numbers = checked_numbering(value, len(numbers))
    return added


def _judge(
    locked: Inspection, added: Sequence[Observation], sent_again: set[uuid.UUID]
) -> set[int]:
    """Hold what may not count, note what differs; the sequences of older rows that are to be held.

    Nearly always everybody knew everything, and nothing is asked of the log.
    """
    seen = [one.seen for one in added if one.seen is not None]
    known = []
    if seen and min(seen) < locked.sequence:
        rows = locked.observations.filter(sequence__gt=min(seen)).order_by("sequence")
        known = [row.row for row in rows]
    released: set[int] = set()
    for one in added:
        around = [row for row in known if _related(row, one.place)]
        again = one.client_id in sent_again
        judgement, held, found = judged(one.row, around, again=again)
        one.held = judgement.held
        if one.held and not found:
            continue  # It was overtaken: it opens nothing and ends nothing.
        released |= held
        open_rows = locked.conflicts.get(one.place)
        if open_rows and (not one.keeps or one.seen is None or one.seen >= max(open_rows)):
            del locked.conflicts[one.place]
        for conflict in found:
            locked.conflicts[conflict.place] = [row.sequence for row in conflict.rows]
    return released


def _related(row: Row, place: str) -> bool:
    return inside(row.place, place) or (row.takes_back and inside(place, row.place))


def _document(
    locked: Inspection, added: Sequence[Observation], released: set[int]
) -> dict[str, Any]:
    """The checked document with some rows more, and some older ones that no longer count."""
    said = [(one.path, one.value) for one in added if not one.held and not one.keeps]
    if not released:
        document, locked.numbering = replay(said, locked.document, locked.numbering)
        return check_change(document, locked.document)
    counted = locked.observations.filter(held=False, keeps=False).exclude(sequence__in=released)
    log = [*counted.order_by("sequence").values_list("path", "value"), *said]
    document, locked.numbering = replay(log)
    return check_document(document)


def _tell_engine(inspection: Inspection, before: dict[str, Any]) -> None:
    """What the newest inspection learns of its engine is known to the next one."""
    newer = inspection.engine.inspections.filter(opened__gt=inspection.opened)
    if not newer.exists():
        learn(engine=inspection.engine, before=before, after=inspection.document["engine"])
