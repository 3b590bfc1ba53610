"""Engines that a shop looks after or looks at."""

from __future__ import annotations

import uuid
from typing import Any, Self

from django.contrib.postgres.indexes import GinIndex
from django.db import models

from server.clients.models import Client
from server.shops.models import Shop, ShopQuerySet, User


class EngineQuerySet(ShopQuerySet["Engine"]):
    """Of two records that were made one, the other stays as a name that leads on."""

    def visible_to(self, user: User) -> Self:
        return super().visible_to(user).filter(merged_into=None)

    def called(self, user: User, pk: Any) -> Engine:
        """The engine that a record is of, one that was merged since included.

        Raises
        ------
        Engine.DoesNotExist
            If the person may see none.
        """
        found = super().visible_to(user).select_related("merged_into").get(pk=pk)
        return found.merged_into or found


class Engine(models.Model):
    """An engine as the contract's `engine` spells it. Changed by services.change only.

    Inspections carry a copy of it as it was when they were opened. `version` counts its
    descriptions; one that is `merged_into` another has been found to be the same.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="engines")
    title = models.CharField(max_length=200)
    identifier = models.CharField(max_length=200, blank=True)
    client = models.ForeignKey(Client, null=True, on_delete=models.SET_NULL, related_name="engines")
    data = models.JSONField()
    words = models.TextField(default="")
    created = models.DateTimeField(auto_now_add=True)
    version = models.PositiveIntegerField(default=1)
    merged_into = models.ForeignKey(
        "self", null=True, on_delete=models.CASCADE, related_name="merged"
    )

    objects = EngineQuerySet.as_manager()

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
