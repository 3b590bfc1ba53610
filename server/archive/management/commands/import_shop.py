"""Read a shop's archive into an empty server."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.archive.reading import ArchiveRefused, read
from server.shops.accounts import link_of
from server.shops.models import User


class Command(BaseCommand):
    help = "Read a shop's archive into a server that has no shop yet; prints its owners' links."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            with options["file"].open("rb") as file:
                shop = read(file)
        except (OSError, ArchiveRefused) as error:
            raise CommandError(str(error)) from None
        print(f"{shop.name} is here. Passwords do not travel; its owners set new ones by these:")
        for owner in shop.people.filter(role=User.Role.OWNER, is_active=True):
            print(f"  {owner.email}: {link_of(owner)}")
