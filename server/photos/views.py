"""Photos over the API."""

from __future__ import annotations

from django.http import FileResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import exceptions
from rest_framework.request import Request

from server.api.views import ShopView
from server.photos.models import Photo
from server.photos.services import opened


class PhotoView(ShopView):
    """One photo of this shop."""

    @extend_schema(operation_id="photo", responses={(200, "image/jpeg"): OpenApiTypes.BINARY})
    def get(self, request: Request, sha256: str) -> FileResponse:
        photo = get_object_or_404(Photo.objects.visible_to(self.user), sha256=sha256)
        try:
            file = opened(photo)
        except FileNotFoundError:
            raise exceptions.NotFound("The file of this photo is lost.", "photo-lost") from None
        return FileResponse(
            file,
            content_type="image/jpeg",
            headers={"Cache-Control": "private, max-age=31536000, immutable"},
        )
