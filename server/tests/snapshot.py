"""What stands in the database, kept to be put back: cheaper than making it again for each test."""

from __future__ import annotations

from functools import cache

from django.apps import apps
from django.db import connection, transaction
from django.db.models import Model

from server.demo.load import load
from server.shops.models import Shop


def demo() -> Shop:
    """The demo, in empty tables; weighed once a process, copied after that."""
    rows = _loaded()
    if not Shop.objects.exists():  # It was not loaded just now.
        put_back(rows)
    return Shop.objects.get()


@cache
def _loaded() -> dict[str, bytes]:
    load()
    return snapshot()


def snapshot() -> dict[str, bytes]:
    """The rows of every table of ours, as the database copies them."""
    kept = {}
    with connection.cursor() as cursor:
        for table in (one._meta.db_table for one in apps.get_models() if _ours(one)):
            with cursor.copy(f"COPY {connection.ops.quote_name(table)} TO STDOUT") as out:
                kept[table] = b"".join(bytes(part) for part in out)
    return {table: rows for table, rows in kept.items() if rows}


def _ours(model: type[Model]) -> bool:
    return model.__module__.startswith("server.")


def put_back(kept: dict[str, bytes]) -> None:
    """Put rows back into empty tables; what refers to what is asked at the end."""
    with transaction.atomic(), connection.cursor() as cursor:
        for table, rows in kept.items():
            with cursor.copy(f"COPY {connection.ops.quote_name(table)} FROM STDIN") as into:
                into.write(rows)
