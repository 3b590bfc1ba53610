"""Bring the database up to date, and load the demo where there is nothing yet."""

from __future__ import annotations

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandParser

from server.demo.load import load
from server.shops.models import Shop


class Command(BaseCommand):
    help = "Migrate, make the cache table, load the demo into an empty database."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--fresh", action="store_true", help="empty everything first")

    def handle(self, *args: Any, **options: Any) -> None:
        call_command("migrate", verbosity=0, interactive=False)
        call_command("createcachetable", verbosity=0)
        if options["fresh"]:
            call_command("flush", verbosity=0, interactive=False)
        if not Shop.objects.exists():
            load()
