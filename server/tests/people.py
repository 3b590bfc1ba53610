"""Shops, people and engines for tests."""

from __future__ import annotations

import json
import uuid
from tempfile import TemporaryDirectory
from typing import Any

from django.test import SimpleTestCase, override_settings

from core.tests.documents import document, quantity
from server.inspections.models import Inspection
from server.inspections.services import import_document
from server.shops.models import Shop, User

PASSWORD = "cold-and-slow-9"


def shop_with(role: str = "inspector", name: str = "A shop") -> User:
    """A person of a new shop."""
    shop = Shop.objects.create(name=name)
    email = f"{role}-{uuid.uuid4().hex[:8]}@example.test"
    return User.objects.create_user(email, PASSWORD, name=f"The {role}", role=role, shop=shop)


def colleague_of(user: User, role: str) -> User:
    """Another person of the same shop."""
    email = f"{role}-{uuid.uuid4().hex[:8]}@example.test"
    return User.objects.create_user(email, PASSWORD, name=f"The {role}", role=role, shop=user.shop)


def inspection_of(user: User, made: dict[str, Any] | None = None) -> Inspection:
    made = made or document(4, title="An inline four")
    return import_document(shop=user.shop, by=user, data=json.dumps(made).encode())


def said(path: str, value: Any, client_id: uuid.UUID | None = None) -> dict[str, Any]:
    return {"client_id": str(client_id or uuid.uuid4()), "path": path, "value": value}


GAP = said("/cylinders/2/plug/gap", quantity(0.8, "mm"))


def own_media(case: SimpleTestCase) -> None:
    """Keep a test's files in a folder of its own, gone when it ends."""
    folder = TemporaryDirectory()
    case.addCleanup(folder.cleanup)
    settings = override_settings(MEDIA_ROOT=folder.name)
    settings.enable()
    case.addCleanup(settings.disable)
