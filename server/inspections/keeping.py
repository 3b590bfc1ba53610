"""Putting inspections by, deleting them, and bringing them back."""

from __future__ import annotations

from datetime import timedelta
from enum import StrEnum

from django.db import transaction
from django.utils import timezone

from core.errors import CoreError
from server.inspections.models import Inspection, InspectionQuerySet, is_signed
from server.shops.models import Shop, User

DAYS_KEPT = 30  # So long may a deleted inspection be brought back.


class Kept(StrEnum):
    """Where an inspection stands: in the list, put by, or deleted and waiting for its end."""

    SHOWN = "shown"
    ARCHIVED = "archived"
    REMOVED = "removed"


def among(user: User, kept: Kept) -> InspectionQuerySet:
    """The inspections of one kind that a person may see."""
    if kept is Kept.REMOVED:
        return Inspection.objects.removed_from(user)
    return Inspection.objects.visible_to(user).filter(archived=kept is Kept.ARCHIVED)


@transaction.atomic
def keep(*, inspection: Inspection, kept: Kept) -> None:
    """Show an inspection, put it by or delete it; what was deleted long ago goes for good.

    Raises
    ------
    CoreError
        If one that is signed off were to be deleted: it is a promise to a client.
    """
    Inspection.objects.select_for_update().get(pk=inspection.pk)
    if kept is Kept.REMOVED and inspection.signings.standing().exists():
        expected = "an inspection that is not signed off; a signed one can be put by"
        raise CoreError("signed-off", "/kept", kept, expected)
    inspection.archived = kept is Kept.ARCHIVED
    inspection.removed = timezone.now() if kept is Kept.REMOVED else None
    inspection.save(update_fields=["archived", "removed"])
    forget(inspection.shop)


def forget(shop: Shop) -> None:
    """Delete for good what was deleted longer ago than it may be brought back; nothing signed."""
    before = timezone.now() - timedelta(days=DAYS_KEPT)
    shop.inspections.filter(removed__lt=before).filter(~is_signed()).delete()
