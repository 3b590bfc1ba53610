"""Weigh every open inspection again that was weighed by rules no longer in force."""

from __future__ import annotations

from argparse import ArgumentParser
from typing import Any

from django.core.management.base import BaseCommand

from core.judgement import rules_version
from server.inspections.tasks import by_older_rules, weigh_again


class Command(BaseCommand):
    help = "Have open inspections weighed again by today's rules; what is signed keeps its own."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument(
            "--here", action="store_true", help="in this process, without waiting for a worker"
        )

    def handle(self, *args: Any, here: bool, **options: Any) -> None:
        handed = 0
        for keys in by_older_rules():
            if here:
                weigh_again.call(keys)
                self.stdout.write(f"{handed + len(keys)} weighed again")
            else:
                weigh_again.enqueue(keys)
            handed += len(keys)
        done = "weighed again" if here else "handed to the workers, to be weighed again"
        self.stdout.write(f"{handed} inspections {done} by {rules_version()}")
