"""The nightly work: each part of it, whatever became of the one before."""

from __future__ import annotations

import traceback
from pathlib import Path
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser


class Command(BaseCommand):
    help = "Write a backup, clear what has had its day, weigh again what older rules weighed."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path, help="of the backup")

    def handle(self, *args: Any, **options: Any) -> None:
        failed = []
        for name, given in (
            ("backup", (str(options["file"]),)),
            ("clear_expired", ()),
            ("reweigh", ("--here",)),
        ):
            try:
                call_command(name, *given)
            except Exception as error:  # A full disk is no reason to keep old sessions.
                failed.append(f"{name}: {str(error).splitlines()[0] if str(error) else error!r}")
                self.stderr.write(traceback.format_exc())
        if failed:
            raise CommandError("; ".join(failed))
