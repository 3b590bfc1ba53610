"""A link that makes one more shop and its first owner."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from server.shops.accounts import set_up_code


class Command(BaseCommand):
    help = "Print a link that makes a shop and its first owner; it works once, within a day."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("address", help="where this server is reached, with https://")

    def handle(self, *args: Any, **options: Any) -> None:
        print(f"{options['address'].rstrip('/')}/set-up/{set_up_code()}")
