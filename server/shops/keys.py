"""Keys for other programs: made, shown once, followed, taken back."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta

from django.db.models import QuerySet
from django.utils import timezone

from server.shops.models import AccessKey, User
from server.shops.second_factor import confirmed

PREFIX = "fiacre_"
MOST_DAYS = 366
NOTED_AFTER = timedelta(hours=1)  # When it was last used is written down no oftener.


def make(user: User, name: str, scope: str, days: int) -> tuple[AccessKey, str]:
    """A new key and its secret, which is told this once and not kept."""
    secret = f"{PREFIX}{secrets.token_urlsafe(32)}"
    made = AccessKey.objects.create(
        user=user,
        name=name,
        scope=scope,
        digest=_digest(secret),
        expires=timezone.now() + timedelta(days=days),
    )
    return made, secret


def end_keys(user: User) -> None:
    """End a person's keys: with a new password, another role or factor nothing old opens."""
    user.keys.all().delete()


def _stands(key: AccessKey) -> bool:
    """Whether a key's person could come in by themselves: a key walks round no second factor."""
    return not key.user.shop.second_factor or confirmed(key.user)


def followed(secret: str, *scopes: str) -> AccessKey | None:
    """The key that a secret opens, if it still does and its person may still come in."""
    key = _opened_by(secret).select_related("user__shop").first()
    if key is None or key.scope not in scopes or not _stands(key):
        return None
    now = timezone.now()
    if key.used is None or now - key.used > NOTED_AFTER:
        key.used = now
        key.save(update_fields=["used"])
    return key


def opens(secret: str) -> bool:
    """Whether a secret is of a key at all: asked before anything of a request is read."""
    return bool(_opened_by(secret).exists())


def _opened_by(secret: str) -> QuerySet[AccessKey]:
    return AccessKey.objects.filter(
        digest=_digest(secret), expires__gt=timezone.now(), user__is_active=True
    )


def _digest(secret: str) -> str:
    return hashlib.sha256(secret.encode()).hexdigest()
