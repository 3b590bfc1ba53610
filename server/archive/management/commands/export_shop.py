"""Write a shop's archive to a file."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.archive.writing import Archive, one_moment
from server.shops.models import Shop


class Command(BaseCommand):
    help = "Write everything a shop has to a ZIP file of open formats."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--shop", help="its id; not needed where there is only one")

    def handle(self, *args: Any, **options: Any) -> None:
        shops = Shop.objects.filter(pk=options["shop"]) if options["shop"] else Shop.objects.all()
        if shops.count() != 1:
            known = ", ".join(f"{one.name} ({one.pk})" for one in Shop.objects.all())
            raise CommandError(f"say which shop with --shop; there are: {known or 'none'}")
        with options["file"].open("wb") as file, one_moment():
            for part in Archive(shops.get()).stream():
                file.write(part)
