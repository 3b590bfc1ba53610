"""Signing off, reopening, and links to reports. Callers have checked access."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta
from typing import Any

from django.db import transaction
from django.utils import timezone

from core.document.signing import sealed
from core.errors import CoreError
from core.language import ENGLISH, speaking, spoken_language
from server.inspections.models import Inspection
from server.inspections.services import catch_up
from server.reports.models import ReportLink, Signing
from server.shops.models import User
from server.weigher import assess

MOST_DAYS = 365


def standing(inspection: Inspection) -> Signing | None:
    """The signing that locks an inspection, if there is one."""
    return inspection.signings.standing().first()


def last_signed(inspection: Inspection) -> Signing | None:
    """What was signed last, although it may be open for an amendment."""
    return inspection.signings.last()


def as_signed(signing: Signing) -> dict[str, Any]:
    """The answer that was signed, in the language that is spoken where it is the same answer.

    What was signed was weighed by the rules of its day. While they are today's, it is said anew and
    only its sentences differ; later it is given in the words in which it was signed.
    """
    signed: dict[str, Any] = signing.content["assessment"]
    language = spoken_language()
    if language == ENGLISH:
        return signed
    if language in signing.told:
        return dict(signing.told[language])
    anew = assess(signing.content["document"])
    same = anew["rules_version"] == signed["rules_version"]
    return anew if same else signed


@transaction.atomic
def sign(*, inspection: Inspection, by: User) -> Signing:
    """Sign an inspection off as it stands, and lock it.

    Raises
    ------
    CoreError
        If it is signed off already.
    """
    locked = Inspection.objects.select_for_update().get(pk=inspection.pk)
    if standing(locked):
        raise CoreError("signed-off", "/", None, "an inspection that is not signed off yet")
    if locked.removed:
        raise CoreError("removed", "/", None, "an inspection that nobody has deleted meanwhile")
    catch_up(locked)
    with speaking(ENGLISH):  # Whoever signs, and whatever was kept: it is worked out now.
        assessment = assess(locked.document)
    now = timezone.now()
    signed = {"by": by.name, "shop": by.shop.name, "at": now.isoformat(timespec="seconds")}
    document = {name: one for name, one in locked.document.items() if name != "outcome"}
    content = sealed(document, assessment, signed)
    return Signing.objects.create(
        inspection=locked,
        by=by,
        at=now,
        sequence=locked.sequence,
        digest=content["digest"],
        content=content,
        told=_told(document, by.shop.language),
    )


def _told(document: dict[str, Any], language: str) -> dict[str, Any]:
    """What is signed in the language in which the shop's reports are read."""
    if language == ENGLISH:
        return {}
    with speaking(language):
        return {language: assess(document)}


@transaction.atomic
def reopen(*, inspection: Inspection, by: User, reason: str) -> None:
    """Open a signed inspection for an amendment; what was signed is kept as it was.

    Raises
    ------
    CoreError
        If it is not signed off, or no reason is given.
    """
    Inspection.objects.select_for_update().get(pk=inspection.pk)
    signing = standing(inspection)
    if signing is None:
        raise CoreError("not-signed", "/", None, "an inspection that is signed off")
    if not reason.strip():
        raise CoreError("missing", "/reason", reason, "why it is amended")
    signing.reopened_by, signing.reopened_at, signing.reason = by, timezone.now(), reason.strip()
    signing.save(update_fields=["reopened_by", "reopened_at", "reason"])


def link(
    *,
    inspection: Inspection,
    by: User,
    days: int,
    units: str,
    photos: bool,
    language: str = ENGLISH,
) -> tuple[ReportLink, str]:
    """Make a link to an inspection's report; its secret is told once and not kept."""
    if not 1 <= days <= MOST_DAYS:
        raise CoreError("out-of-range", "/days", days, f"from 1 to {MOST_DAYS}")
    secret = secrets.token_urlsafe(24)
    made = ReportLink.objects.create(
        inspection=inspection,
        secret_sha256=_digest(secret),
        units=units,
        photos=photos,
        language=language,
        by=by,
        expires=timezone.now() + timedelta(days=days),
    )
    return made, secret


def followed(secret: str) -> ReportLink | None:
    """The link that a secret opens, if it still does."""
    links = ReportLink.objects.open().select_related("inspection__shop", "inspection__opened_by")
    return links.filter(secret_sha256=_digest(secret)).first()


def revoke(made: ReportLink) -> None:
    """Close a link for good."""
    made.revoked_at = made.revoked_at or timezone.now()
    made.save(update_fields=["revoked_at"])


def _digest(secret: str) -> str:
    return hashlib.sha256(secret.encode()).hexdigest()
