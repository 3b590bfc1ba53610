"""Engines that a shop looks after or looks at."""

from __future__ import annotations

import uuid
from typing import Any

from django.contrib.postgres.indexes import GinIndex
from django.db import models

from server.clients.models import Client
from server.shops.models import Shop, ShopQuerySet


class Engine(models.Model):
    """An engine as the contract's `engine` spells it. Changed by services.change only.

    Inspections carry a copy of it as it was when they were opened.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="engines")
    title = models.CharField(max_length=200)
    identifier = models.CharField(max_length=200, blank=True)
    client = models.ForeignKey(Client, null=True, on_delete=models.SET_NULL, related_name="engines")
    data = models.JSONField()
    words = models.TextField(default="")
    created = models.DateTimeField(auto_now_add=True)

    objects = ShopQuerySet["Engine"].as_manager()

    class Meta:
        ordering = ["title", "id"]
        indexes = [
            models.Index(fields=["shop", "title"], name="engine_by_title"),
            GinIndex(fields=["words"], name="engine_words", opclasses=["gin_trgm_ops"]),
        ]

    def save(self, *args: Any, **fields: Any) -> None:
        """Keep what it is found by in step with what it is called."""
        self.words = self.said()
        super().save(*args, **fields)

    def said(self) -> str:
        """The text that a search looks through."""
        return f"{self.title} {self.identifier}".lower()

    def __str__(self) -> str:
        return self.title
