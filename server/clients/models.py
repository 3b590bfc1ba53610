"""The people whom a shop works for. All of it is personal data: kept apart, given out, erased."""

from __future__ import annotations

import uuid

from django.db import models

from server.shops.models import Shop, ShopQuerySet


class Client(models.Model):
    """Somebody who owns engines, and how they are reached.

    Nothing of it stands in an inspection's document or log: those keep what was found. What is
    erased keeps its place, so that engines still say that they had an owner, and when it went.
    `version` counts what was written of them.
    """

    PERSONAL = ("name", "email", "phone", "address", "note")

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="clients")
    name = models.CharField(max_length=200, blank=True)
    email = models.EmailField(blank=True, default="")
    phone = models.CharField(max_length=50, blank=True, default="")
    address = models.TextField(blank=True, default="", max_length=500)
    note = models.TextField(blank=True, default="", max_length=2000)
    made = models.DateTimeField(auto_now_add=True)
    erased = models.DateTimeField(null=True)
    version = models.PositiveIntegerField(default=1)

    objects = ShopQuerySet["Client"].as_manager()

    class Meta:
        ordering = ["name", "id"]
        indexes = [models.Index(fields=["shop", "name"], name="client_by_name")]

    def __str__(self) -> str:
        return self.name or "erased"
