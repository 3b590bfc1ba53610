"""Sessions that know whose they are (Django's documented way to extend its own)."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.contrib.auth import SESSION_KEY
from django.contrib.sessions.backends.db import SessionStore as DatabaseStore
from django.http import HttpRequest
from django.utils import timezone

from server.shops.models import SignedIn, User

DEVICE, SEEN, BEGAN = "device", "seen", "began"
MUST_ENROL = "must-enrol"
RENEWED_AFTER_S = 3600  # A session in use is prolonged so often, not with every key.


class SessionStore(DatabaseStore):
    """Keeps the person and the device beside each session."""

    @classmethod
    def get_model_class(cls) -> type[Any]:
        return SignedIn

    def create_model_instance(self, data: dict[str, Any]) -> SignedIn:
        made: SignedIn = super().create_model_instance(data)  # type: ignore[assignment]
        made.user_id = data.get(SESSION_KEY)
        made.device = data.get(DEVICE, "")
        return made


def began(request: HttpRequest, user: User) -> None:
    """Note where somebody signed in, and whether they have to add a second factor first."""
    request.session[DEVICE] = request.headers.get("User-Agent", "")[:200]
    request.session[SEEN] = request.session[BEGAN] = timezone.now().timestamp()
    if user.shop.second_factor:
        from server.shops.second_factor import confirmed

        request.session[MUST_ENROL] = not confirmed(user)


def is_of_somebody(key: str) -> bool:
    """Whether a session's key is that of somebody who is signed in."""
    rows = SignedIn.objects.filter(session_key=key, expire_date__gt=timezone.now())
    return bool(rows.filter(user__is_active=True).exists())


def prolong(request: HttpRequest) -> bool:
    """Begin the idle time anew for a session in use; False if it is over, whatever its use."""
    now = timezone.now().timestamp()
    if now - request.session.get(BEGAN, now) > settings.SESSION_ENDS_S:
        request.session.flush()
        return False
    if now - request.session.get(SEEN, now) > RENEWED_AFTER_S:
        request.session.setdefault(BEGAN, now)  # One that an older version began.
        request.session[SEEN] = now
    return True


def end_all(user: User, *, but: str | None = None) -> None:
    """End a person's sessions everywhere, except the one that asks for it."""
    SignedIn.objects.filter(user=user).exclude(session_key=but or "").delete()
