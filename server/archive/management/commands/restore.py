"""Put a backup back."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.archive import backup


class Command(BaseCommand):
    help = "Replace all that the database holds by what a backup holds, and put its photos back."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--yes", action="store_true", help="do not ask")

    def handle(self, *args: Any, **options: Any) -> None:
        if not options["yes"]:
            print("Everything in the database is replaced. Type 'restore' to go on: ", end="")
            if input().strip() != "restore":
                print("Nothing was changed.")
                return
        try:
            files = backup.restore(options["file"])
        except backup.BackupFailed as error:
            raise CommandError(str(error)) from None
        print(f"The database is as it was, and {files} files.")
