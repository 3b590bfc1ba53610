"""Bring the database up to date; load the demo into an empty one, or say how a shop begins.

What was weighed by older rules is handed to the workers.
"""

from __future__ import annotations

from io import StringIO
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandParser
from django.db import connection

from server.demo.load import load
from server.shops.accounts import set_up_code
from server.shops.models import Shop


class Command(BaseCommand):
    help = "Migrate, make the cache table; an empty database gets the demo, or a set-up code."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--fresh", action="store_true", help="empty everything first")
        parser.add_argument("--no-demo", action="store_true", help="leave an empty database empty")

    def handle(self, *args: Any, **options: Any) -> None:
        with connection.cursor() as cursor:  # A large table takes its time to be changed.
            cursor.execute("SET statement_timeout = 0")
        call_command("migrate", verbosity=0, interactive=False)
        call_command("createcachetable", verbosity=0)
        if options["fresh"]:
            call_command("flush", verbosity=0, interactive=False)
        if Shop.objects.exists():
            call_command("reweigh", stdout=StringIO())
            return
        if options["no_demo"]:
            print(set_up_code())
        else:
            load()
