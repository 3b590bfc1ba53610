"""Weigh every open inspection again that was weighed by rules no longer in force."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from core.judgement import rules_version
from server.inspections.models import Inspection
from server.inspections.services import up_to_date

TOLD_EACH = 100


class Command(BaseCommand):
    help = "Weigh open inspections again by today's rules; what is signed keeps its own."

    def handle(self, *args: Any, **options: Any) -> None:
        waiting = Inspection.objects.open().exclude(rules=rules_version())
        keys = list(waiting.order_by("-date").values_list("pk", flat=True))
        for done, key in enumerate(keys, start=1):
            found = Inspection.objects.filter(pk=key).first()
            if found is not None:
                up_to_date(found)
            if done % TOLD_EACH == 0:
                self.stdout.write(f"{done} of {len(keys)} weighed again")
        self.stdout.write(f"{len(keys)} inspections weighed again by {rules_version()}")
