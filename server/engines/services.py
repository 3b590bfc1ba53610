"""Adding and changing engines."""

from __future__ import annotations

import uuid
from contextlib import suppress
from typing import Any

from django.db import transaction

from core.document import FORMAT, VERSION, canonical, check_document
from core.errors import CoreError
from server.engines.models import Engine
from server.inspections.finding import words
from server.shops.models import Shop


def checked(data: dict[str, Any]) -> dict[str, Any]:
    """An engine of the contract in canonical order; refused by the core otherwise."""
    document = check_document({"format": FORMAT, "version": VERSION, "engine": data})
    engine: dict[str, Any] = canonical(document)["engine"]
    return engine


def add(*, shop: Shop, data: dict[str, Any], id: uuid.UUID | None = None) -> Engine:
    """Add an engine to a shop; it needs a title to be found by.

    With an id that was made where it was described, to add it again changes nothing.

    Raises
    ------
    CoreError, DocumentRefused
        If the contract refuses it, or the id belongs to an engine of another shop.
    """
    if id is not None and (known := Engine.objects.filter(pk=id).first()):
        if known.shop_id != shop.pk:
            raise CoreError("id", "/id", id, "an id that is not taken")
        return known.merged_into or known
    engine = checked(data)
    title = engine.get("title", "").strip()
    if not title or len(title) > 200:
        raise CoreError("missing", "/engine/title", title, "a title of 1 to 200 characters")
    return Engine.objects.create(
        id=id or uuid.uuid4(),
        shop=shop,
        title=title,
        identifier=engine.get("identifier", "")[:200],
        data=engine,
    )


@transaction.atomic
def change(*, engine: Engine, data: dict[str, Any], replaces: int) -> bool:
    """Replace one version of an engine's description; inspections already opened keep theirs.

    Returns
    -------
    bool
        False where another version stands by now: then nothing is changed.
    """
    locked = Engine.objects.select_for_update().get(pk=engine.pk)
    if locked.version != replaces:
        return False
    _describe(locked, checked(data))
    engine.refresh_from_db()
    return True


@transaction.atomic
def learn(*, engine: Engine, before: dict[str, Any], after: dict[str, Any]) -> None:
    """Take over what an inspection corrected in its own copy of a description, and no more of it.

    What was corrected elsewhere meanwhile stays. Where the two together would be no engine, the
    inspection keeps its copy and the engine its own.
    """
    if before == after:
        return
    locked = Engine.objects.select_for_update().get(pk=engine.pk)
    with suppress(CoreError):
        _describe(locked, checked(_corrected(locked.data, before, after)))


def _describe(engine: Engine, data: dict[str, Any]) -> None:
    engine.data = data
    engine.title = data.get("title", engine.title)[:200]
    engine.identifier = data.get("identifier", "")[:200]
    engine.version += 1
    engine.save()
    _call_again(engine)


def _corrected(
    known: dict[str, Any], before: dict[str, Any], after: dict[str, Any]
) -> dict[str, Any]:
    """A description with what differs between two others, part by part."""
    found = dict(known)
    for name in {*before, *after}:
        old, new = before.get(name), after.get(name)
        if old == new:
            continue
        if new is None:
            found.pop(name, None)
        elif all(isinstance(one, dict) for one in (old, new, known.get(name))):
            found[name] = _corrected(known[name], before[name], after[name])
        else:
            found[name] = new
    return found


@transaction.atomic
def merge(*, engine: Engine, into: Engine) -> None:
    """Two records of one engine made one: its inspections go over, and it leads there.

    Inspections keep the description that they were opened with. What is begun on it meanwhile, or
    later on a device that did not know, is begun on the other.

    Raises
    ------
    CoreError
        If both are one already, or the two have not as many cylinders: that is no one engine.
    """
    if engine.pk == into.pk:
        raise CoreError("merge", "/into", str(into.pk), "another engine")
    if engine.data["cylinders"] != into.data["cylinders"]:
        expected = f"an engine of {engine.data['cylinders']} cylinders"
        raise CoreError("merge", "/into", into.title, expected)
    both = Engine.objects.select_for_update().filter(pk__in=(engine.pk, into.pk)).order_by("pk")
    locked = {one.pk: one for one in both}
    engine, into = locked[engine.pk], locked[into.pk]
    if engine.merged_into_id or into.merged_into_id:
        raise CoreError("merge", "/into", str(into.pk), "two engines that are still apart")
    engine.inspections.update(engine=into)
    engine.merged.update(merged_into=into)
    if into.client is None and engine.client is not None:
        into.client = engine.client
        into.save(update_fields=["client"])
    engine.client, engine.merged_into = None, into
    engine.save(update_fields=["client", "merged_into"])
    _call_again(into)


def held(engine: Engine) -> Engine:
    """An engine locked for whoever begins something on it; where it was merged, the other one."""
    locked = Engine.objects.select_for_update().get(pk=engine.pk)
    if locked.merged_into_id:
        return Engine.objects.select_for_update().get(pk=locked.merged_into_id)
    return locked


def _call_again(engine: Engine) -> None:
    """Its inspections are found by what it is called now."""
    for inspection in engine.inspections.select_related("engine", "opened_by").only(
        "words", "engine__title", "engine__identifier", "opened_by__name"
    ):
        said = words(inspection)
        if said != inspection.words:
            inspection.words = said
            inspection.save(update_fields=["words"])


def of_document(*, shop: Shop, data: dict[str, Any]) -> Engine:
    """The shop's engine that an imported document speaks of, added if it is new."""
    title = (data.get("title") or data.get("identifier") or "Imported engine")[:200]
    found = Engine.objects.filter(
        shop=shop, title=title, identifier=data.get("identifier", "")[:200]
    ).first()
    if found is not None:
        return found.merged_into or found
    return Engine.objects.create(
        shop=shop, title=title, identifier=data.get("identifier", "")[:200], data=data
    )
