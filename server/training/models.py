"""What people practise on: classes, rounds played, plugs named. Never an inspection."""

from __future__ import annotations

import uuid

from django.db import models

from server.shops.models import Shop, ShopQuerySet, User


class TrainingClass(models.Model):
    """Cases that several people play, each by its kind and seed: everybody gets the same engine."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="classes")
    name = models.CharField(max_length=100)
    cases = models.JSONField()
    created = models.DateTimeField(auto_now_add=True)

    objects = ShopQuerySet["TrainingClass"].as_manager()

    class Meta:
        ordering = ["created", "id"]

    def __str__(self) -> str:
        return self.name


class OwnCase(models.Model):
    """An engine that the shop had, to practise on: what was read and what it turned out to be.

    Nothing tells whose it was; it is not tied to its inspection.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="own_cases")
    number = models.PositiveIntegerField()
    document = models.JSONField()
    created = models.DateTimeField(auto_now_add=True)

    objects = ShopQuerySet["OwnCase"].as_manager()

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["shop", "number"], name="own_case_number")]

    def __str__(self) -> str:
        return f"own case {self.number}"


class Attempt(models.Model):
    """One round by one person. What was done is kept; what it told is reckoned again from the case.

    `acts` are [test, cylinders] in their order, `record` what was written down at the bench,
    `answer` the claims once it is over, `score` what it was worth then.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    person = models.ForeignKey(User, on_delete=models.CASCADE, related_name="attempts")
    of_class = models.ForeignKey(
        TrainingClass, null=True, on_delete=models.CASCADE, related_name="attempts"
    )
    kind = models.CharField(max_length=40)
    seed = models.PositiveIntegerField()
    begun = models.DateTimeField(auto_now_add=True)
    acts = models.JSONField(default=list)
    record = models.JSONField(null=True)
    answer = models.JSONField(null=True)
    score = models.JSONField(null=True)

    class Meta:
        ordering = ["begun", "id"]

    def __str__(self) -> str:
        return f"{self.kind} {self.seed}"


class PlugReading(models.Model):
    """A drawn plug that somebody named."""

    person = models.ForeignKey(User, on_delete=models.CASCADE, related_name="plug_readings")
    number = models.PositiveIntegerField()
    face = models.CharField(max_length=40)
    answered = models.CharField(max_length=40)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["person", "number"], name="plug_named_once"),
        ]

    def __str__(self) -> str:
        return f"{self.face} as {self.answered}"
