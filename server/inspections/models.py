"""Inspections: a log of observations, and the document that is their fold."""

from __future__ import annotations

import uuid
from functools import cached_property
from typing import Any, Self

from django.apps import apps
from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.indexes import GinIndex
from django.db import models

from core.document.log import Row
from server.engines.models import Engine
from server.shops.models import Shop, ShopQuerySet, User


class InspectionQuerySet(ShopQuerySet["Inspection"]):
    """What was removed is there for nobody, until it is brought back or its days are over."""

    def visible_to(self, user: User) -> Self:
        return super().visible_to(user).filter(removed__isnull=True)

    def open(self) -> Self:
        """Those that are not signed: what is signed keeps the rules that it was signed under."""
        return self.exclude(pk__in=_signings().standing().values("inspection"))

    def removed_from(self, user: User) -> Self:
        return super().visible_to(user).filter(removed__isnull=False)


class Inspection(models.Model):
    """One inspection of one engine. Its log says what happened; all else here is derived.

    `document` is the fold of the log, written by log.record alone, in the transaction that adds to
    it. `assessment` is the core's answer, without reasons and next tests, to the log's first
    `weighed` rows: what is kept does not wait for it, and services.up_to_date catches up.
    `grade` is the engine's as it was found, `grade_left` as it was left, if anything was done;
    `rules` are those that it was weighed by: a signed inspection keeps its own. `words`,
    `suspected` and `has_outcome` are what it is found by (finding.py), `follow_up` the day on which
    somebody is to look again, until somebody has.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="inspections")
    engine = models.ForeignKey(Engine, on_delete=models.CASCADE, related_name="inspections")
    opened_by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL)
    opened = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)
    date = models.DateField(null=True)
    sequence = models.PositiveIntegerField(default=0)
    weighed = models.PositiveIntegerField(default=0)
    numbering = models.JSONField(default=list)
    conflicts = models.JSONField(default=dict)
    document = models.JSONField()
    assessment = models.JSONField()
    grade = models.CharField(max_length=1)
    grade_left = models.CharField(max_length=1, blank=True, default="")
    rules = models.CharField(max_length=40, blank=True, default="")
    verdict = models.TextField(blank=True)
    words = models.TextField(default="")
    suspected = ArrayField(models.CharField(max_length=40), default=list)
    has_outcome = models.BooleanField(default=False)
    follow_up = models.DateField(null=True)
    archived = models.BooleanField(default=False)
    removed = models.DateTimeField(null=True)

    objects = InspectionQuerySet.as_manager()

    class Meta:
        ordering = ["-date", "-opened", "id"]
        indexes = [
            models.Index(fields=["shop", "-date", "-opened", "id"], name="inspection_by_date"),
            models.Index(
                fields=["shop", "grade", "-date", "-opened", "id"], name="inspection_by_grade"
            ),
            models.Index(fields=["shop", "-changed", "id"], name="inspection_by_change"),
            models.Index(fields=["engine", "-date", "-opened", "id"], name="inspection_by_engine"),
            models.Index(
                fields=["shop", "-date"],
                name="inspection_with_outcome",
                condition=models.Q(has_outcome=True),
            ),
            models.Index(
                fields=["shop", "follow_up"],
                name="inspection_to_follow_up",
                condition=models.Q(follow_up__isnull=False),
            ),
            GinIndex(fields=["words"], name="inspection_words", opclasses=["gin_trgm_ops"]),
            GinIndex(fields=["suspected"], name="inspection_suspected"),
        ]

    def __str__(self) -> str:
        return f"{self.engine_id} {self.date}"

    @cached_property
    def signed_off(self) -> bool:
        """Whether it is locked: of its signings only the last can stand. Asked once an instance."""
        standing: bool = self.signings.standing().exists()
        return standing

    @property
    def numbers(self) -> list[int]:
        """The first number of every cylinder, in the order of the numbers of today."""
        return self.numbering or list(range(1, self.document["engine"]["cylinders"] + 1))


def is_signed() -> models.Exists:
    """Of each of a list of inspections, whether it is signed; for `annotate`."""
    return models.Exists(_signings().standing().filter(inspection=models.OuterRef("pk")))


def _signings() -> Any:
    """Signings are of the reports, which know inspections and not the other way round."""
    return apps.get_model("reports", "Signing").objects


class Observation(models.Model):
    """One thing seen, read or taken back. Only ever added: a correction is a new row.

    `client_id` is made where the observation was made, so that sending it again changes nothing;
    `device` says where that was and `seen` how much of the log was known there. `path` is spelt in
    the numbers that were in force when the row was added, `place` in the cylinders' first numbers.
    `order` counts up on a device. A `held` row takes back what it did not know, or was overtaken,
    and does not count; a row that `keeps` says that what stands is to stand (core.document.log).
    Held is the one thing that may change afterwards.
    """

    inspection = models.ForeignKey(
        Inspection, on_delete=models.CASCADE, related_name="observations"
    )
    client_id = models.UUIDField()
    sequence = models.PositiveIntegerField()
    path = models.CharField(max_length=300)
    place = models.CharField(max_length=300)
    value = models.JSONField(null=True)
    by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL)
    sent_by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    made = models.DateTimeField(null=True)
    device = models.UUIDField(null=True)
    seen = models.PositiveIntegerField(null=True)
    held = models.BooleanField(default=False)
    keeps = models.BooleanField(default=False)
    order = models.BigIntegerField(null=True)

    class Meta:
        ordering = ["sequence"]
        constraints = [
            models.UniqueConstraint(fields=["inspection", "client_id"], name="observed_once"),
            models.UniqueConstraint(fields=["inspection", "sequence"], name="observed_in_order"),
        ]

    @property
    def row(self) -> Row:
        """The row as the core's rules of the log know it."""
        return Row(
            sequence=self.sequence,
            place=self.place,
            value=self.value,
            author=str(self.by_id),
            device=str(self.device) if self.device else None,
            seen=self.seen,
            held=self.held,
            keeps=self.keeps,
            order=self.order,
        )

    def __str__(self) -> str:
        return f"{self.sequence} {self.path}"
