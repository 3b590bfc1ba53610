"""The demo: an invented boatyard on an invented lake, its people, launches and fire pumps."""

from __future__ import annotations

from pathlib import Path

from django.db import transaction

from server.clients.models import Client
from server.inspections.services import import_document
from server.shops.models import Shop, User
from server.training.services import new_class

DOCUMENTS = Path(__file__).parent / "documents"
BLADES_MM = (0.05, 0.1, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0)
CLASS_SEED = 2026
PASSWORD = "launch-and-pump"
PEOPLE = (
    ("signe@tarnel.example", "Signe Aldersund", User.Role.OWNER),
    ("bo@tarnel.example", "Bo Marrick", User.Role.INSPECTOR),
    ("visitor@tarnel.example", "A visitor", User.Role.VIEWER),
)

CLIENTS = (
    ("Edda Rundqvist", "edda@tarnel.example", ("TB-114",)),
    ("Tarnel parish, fire watch", "pumps@tarnel.example", ("PUMP-2", "TP-07")),
)


@transaction.atomic
def load() -> Shop:
    """Load the demo into a database without shops."""
    shop = Shop.objects.create(name="Tarnel Boatyard")
    people = [
        User.objects.create_user(email, PASSWORD, name=name, role=role, shop=shop)
        for email, name, role in PEOPLE
    ]
    people[0].tools = {
        "blades": [{"value": thick, "unit": "mm"} for thick in BLADES_MM],
        "wrench": {"unit": "N.m", "step": 1, "minimum": 5, "maximum": 50},
    }
    people[0].save(update_fields=["tools"])
    for path in sorted(DOCUMENTS.glob("*.json")):
        import_document(shop=shop, by=people[0], data=path.read_bytes())
    for name, email, owned in CLIENTS:
        client = Client.objects.create(shop=shop, name=name, email=email)
        shop.engines.filter(identifier__in=owned).update(client=client)
    new_class(shop=shop, name="First winter", seed=CLASS_SEED)
    return shop
