"""Write a backup of the whole server."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.archive import backup


class Command(BaseCommand):
    help = "Write database and photos to one file."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            backup.write(options["file"])
        except (backup.BackupFailed, OSError) as error:
            raise CommandError(str(error)) from None
        print(f"{options['file']}: {options['file'].stat().st_size / 1e6:.1f} MB")
