"""Take away what has had its day: sessions, keys, counted tries at the door."""

from __future__ import annotations

from typing import Any

from axes.models import AccessAttempt
from django.conf import settings
from django.core.management.base import BaseCommand
from django.utils import timezone

from server.shops.models import AccessKey
from server.shops.sessions import SessionStore


class Command(BaseCommand):
    help = "Delete sessions and keys that have ended, and wrong passwords that no longer count."

    def handle(self, *args: Any, **options: Any) -> None:
        SessionStore.clear_expired()
        now = timezone.now()
        AccessKey.objects.filter(expires__lt=now).delete()
        AccessAttempt.objects.filter(attempt_time__lt=now - settings.AXES_COOLOFF_TIME).delete()
