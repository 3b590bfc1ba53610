"""A large shop, to see how things are found in it: simulated engines, inspected over and over."""

from __future__ import annotations

import uuid
from datetime import date, timedelta
from itertools import islice
from typing import Any

import numpy as np
from django.core.management.base import BaseCommand, CommandParser
from django.db import connection, transaction

from core.document import canonical, check_document
from core.simulation import draw_truth, record
from core.telling import assess
from server.engines.models import Engine
from server.inspections.finding import suspected, words
from server.inspections.models import Inspection
from server.shops.models import Shop, User

DISTINCT = 150
EACH_ENGINE = 5
PASSWORD = "hulls-and-hulls"
BATCH = 1000
ONE_TO_FOLLOW_UP = 500
YARDS = ("north slip", "boathouse", "lock", "mill quay", "reed bay", "ferry stage")
NAMES = ("Teal", "Smew", "Garganey", "Bittern", "Avocet", "Dunlin", "Plover", "Godwit")


class Command(BaseCommand):
    help = "Add a shop with many inspections. They have no log: they are for finding, not amending."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--inspections", type=int, default=100_000)
        parser.add_argument("--seed", type=int, default=1)

    def handle(self, *args: Any, **options: Any) -> None:
        random = np.random.default_rng(options["seed"])
        distinct = [_drawn(random) for _ in range(min(DISTINCT, options["inspections"]))]
        with transaction.atomic():
            shop = Shop.objects.create(name="A large shop")
            people = [
                User.objects.create_user(
                    f"{uuid.uuid4().hex[:8]}@large.example", PASSWORD, name=f"Inspector {n}",
                    role=User.Role.INSPECTOR, shop=shop,
                )
                for n in range(1, 6)
            ]  # fmt: skip
            rows = _rows(shop, people, distinct, options["inspections"], random)
            while batch := list(islice(rows, BATCH)):
                engines = {one.engine.pk: one.engine for one in batch}
                Engine.objects.bulk_create(engines.values(), ignore_conflicts=True)
                Inspection.objects.bulk_create(batch)
        with connection.cursor() as cursor:
            cursor.execute("VACUUM ANALYZE")  # As the database does by itself after a while.
        self.stdout.write(f"{people[0].email} {PASSWORD}")


def _drawn(random: np.random.Generator) -> tuple[dict[str, Any], dict[str, Any]]:
    document = canonical(check_document(record(draw_truth(random), random)))
    return document, assess(document, explain=False)


def _rows(
    shop: Shop,
    people: list[User],
    distinct: list[tuple[dict[str, Any], dict[str, Any]]],
    count: int,
    random: np.random.Generator,
) -> Any:
    """Inspections, several of each engine, on days over twelve years."""
    engine = Engine()
    for number in range(count):
        document, assessment = distinct[(number // EACH_ENGINE) % len(distinct)]
        if number % EACH_ENGINE == 0:
            name = NAMES[int(random.integers(len(NAMES)))]
            title = f"Launch {name} {number // EACH_ENGINE}, {YARDS[number % len(YARDS)]}"
            engine = Engine(
                shop=shop, title=title, identifier=f"H-{number:06d}", data=document["engine"]
            )
            engine.words = engine.said()
        day = date(2014, 1, 1) + timedelta(days=int(random.integers(4380)))
        made = Inspection(
            shop=shop,
            engine=engine,
            opened_by=people[int(random.integers(len(people)))],
            date=day,
            follow_up=day + timedelta(days=30) if number % ONE_TO_FOLLOW_UP == 0 else None,
            document=document,
            assessment=assessment,
            rules=assessment["rules_version"],
            grade=assessment["engine"]["grade"],
            verdict=assessment["engine"]["verdict"],
            suspected=suspected(assessment),
        )
        made.words = words(made)
        yield made
