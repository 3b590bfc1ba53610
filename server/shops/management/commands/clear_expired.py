"""Take away what has had its day: sessions, keys, tries at the door, jobs that were done."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from axes.models import AccessAttempt
from django.conf import settings
from django.core.management.base import BaseCommand
from django.utils import timezone
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from server.clients.services import forgotten
from server.shops.models import AccessKey
from server.shops.sessions import SessionStore

LONGEST_JOB, JOBS_KEPT = timedelta(hours=1), timedelta(days=14)


class Command(BaseCommand):
    help = "Delete sessions and keys that have ended, and wrong passwords that no longer count."

    def handle(self, *args: Any, **options: Any) -> None:
        SessionStore.clear_expired()
        now = timezone.now()
        AccessKey.objects.filter(expires__lt=now).delete()
        forgotten()
        DBTaskResult.objects.finished().filter(finished_at__lt=now - JOBS_KEPT).delete()
        # Its worker was killed: all jobs may be done twice.
        left = DBTaskResult.objects.running().filter(started_at__lt=now - LONGEST_JOB)
        left.update(status=TaskResultStatus.READY)
        AccessAttempt.objects.filter(attempt_time__lt=now - settings.AXES_COOLOFF_TIME).delete()
