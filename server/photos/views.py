"""Photos over the API."""

from __future__ import annotations

from typing import Any

from django.http import FileResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers, status
from rest_framework.request import Request
from rest_framework.response import Response

from server.api.parsers import Bytes, sent
from server.api.views import ShopView
from server.photos import services
from server.photos.models import Photo


class PictureBytes(Bytes):
    """A picture's file."""

    most = services.MOST_BYTES


class PhotoSerializer(serializers.Serializer[Any]):
    """What an inspection's document calls the photo."""

    photo = serializers.CharField()
    width = serializers.IntegerField()
    height = serializers.IntegerField()


class PhotosView(ShopView):
    """Take a photo in."""

    parser_classes = [PictureBytes]

    @extend_schema(
        operation_id="keep_photo",
        request={"application/octet-stream": OpenApiTypes.BINARY},
        responses={201: PhotoSerializer},
    )
    def post(self, request: Request) -> Response:
        photo = services.keep(shop=self.user.shop, by=self.user, data=sent(request))
        body = {"photo": f"sha256:{photo.sha256}", "width": photo.width, "height": photo.height}
        return Response(PhotoSerializer(body).data, status=status.HTTP_201_CREATED)


class PhotoView(ShopView):
    """One photo of this shop."""

    @extend_schema(operation_id="photo", responses={(200, "image/jpeg"): OpenApiTypes.BINARY})
    def get(self, request: Request, sha256: str) -> FileResponse:
        photo = get_object_or_404(Photo.objects.visible_to(self.user), sha256=sha256)
        return FileResponse(
            photo.file.open(),
            content_type="image/jpeg",
            headers={"Cache-Control": "private, max-age=31536000, immutable"},
        )
