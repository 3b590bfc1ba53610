"""Adding and changing engines."""

from __future__ import annotations

import uuid
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
        return known
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


def change(*, engine: Engine, data: dict[str, Any]) -> Engine:
    """Replace an engine's description; inspections already opened keep theirs."""
    engine.data = checked(data)
    engine.title = engine.data.get("title", engine.title)[:200]
    engine.identifier = engine.data.get("identifier", "")[:200]
    engine.save()
    _call_again(engine)
    return engine


@transaction.atomic
def merge(*, engine: Engine, into: Engine) -> None:
    """Two records of one engine made one: its inspections go over, and it is gone.

    Inspections keep the description that they were opened with.

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
    engine.inspections.update(engine=into)
    if into.client is None and engine.client is not None:
        into.client = engine.client
        into.save(update_fields=["client"])
    _call_again(into)
    engine.delete()


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
    return found or Engine.objects.create(
        shop=shop, title=title, identifier=data.get("identifier", "")[:200], data=data
    )
