"""Photos: kept once for a shop however often they are shown, known by what is in them."""

from __future__ import annotations

import uuid

from django.db import models

from server.shops.models import Shop, ShopQuerySet, User


def place(photo: Photo, _: str) -> str:
    """Where the file lies; shops share no folder."""
    return f"photos/{photo.shop_id}/{photo.sha256[:2]}/{photo.sha256}.jpg"


class Photo(models.Model):
    """One picture as it is served: made anew from what was sent, and never changed after.

    Written only by services.keep. Which cylinder it shows stands in the inspection's document.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="photos")
    sha256 = models.CharField(max_length=64)
    file = models.FileField(upload_to=place, max_length=200)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField(auto_now_add=True)

    objects = ShopQuerySet["Photo"].as_manager()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shop", "sha256"], name="one_photo_a_shop")]

    def __str__(self) -> str:
        return self.sha256
