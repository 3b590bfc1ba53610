"""Signed inspections, and links to their reports."""

from __future__ import annotations

import uuid

from django.db import models
from django.utils import timezone

from core.language import ENGLISH, LANGUAGES
from server.inspections.models import Inspection
from server.shops.models import User


class SigningQuerySet(models.QuerySet["Signing"]):
    """Which signings lock their inspection: of each only the last can."""

    def standing(self) -> SigningQuerySet:
        return self.filter(reopened_at__isnull=True)


class Signing(models.Model):
    """An inspection as it was signed off. Never changed, but for being reopened once.

    While the last signing of an inspection is not reopened, the inspection is locked; what is
    recorded after reopening is an amendment, which is signed anew. Written by services alone.
    """

    inspection = models.ForeignKey(Inspection, on_delete=models.CASCADE, related_name="signings")
    by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField()
    sequence = models.PositiveIntegerField()
    digest = models.CharField(max_length=64)
    content = models.JSONField()
    # The answer that was signed as the shop's own language says it; none where that is English.
    told = models.JSONField(default=dict, blank=True)
    reopened_by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    reopened_at = models.DateTimeField(null=True)
    reason = models.TextField(blank=True)

    objects = SigningQuerySet.as_manager()

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return self.digest

    @property
    def stands(self) -> bool:
        return self.reopened_at is None


class ReportLinkQuerySet(models.QuerySet["ReportLink"]):
    """Which links still open."""

    def open(self) -> ReportLinkQuerySet:
        standing = self.filter(inspection__removed__isnull=True)
        return standing.filter(revoked_at__isnull=True, expires__gt=timezone.now())


class ReportLink(models.Model):
    """A way for a client to read one report without an account, until it expires or is revoked.

    Only a digest of its secret is kept: whoever reads the database cannot follow it.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    inspection = models.ForeignKey(Inspection, on_delete=models.CASCADE, related_name="links")
    secret_sha256 = models.CharField(max_length=64, unique=True)
    units = models.CharField(max_length=10, default="as-read")
    photos = models.BooleanField(default=False)
    language = models.CharField(max_length=5, choices=list(LANGUAGES.items()), default=ENGLISH)
    by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    made = models.DateTimeField(auto_now_add=True)
    expires = models.DateTimeField()
    revoked_at = models.DateTimeField(null=True)

    objects = ReportLinkQuerySet.as_manager()

    class Meta:
        ordering = ["-made"]

    def __str__(self) -> str:
        return f"{self.inspection_id} until {self.expires:%Y-%m-%d}"

    @property
    def is_open(self) -> bool:
        return self.revoked_at is None and self.expires > timezone.now()
