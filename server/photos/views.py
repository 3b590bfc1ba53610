"""Photos over the API."""

from __future__ import annotations

from typing import Any

from django.http import FileResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers, status
from rest_framework.parsers import BaseParser
from rest_framework.request import Request
from rest_framework.response import Response

from server.api.views import ShopView
from server.photos import services
from server.photos.models import Photo


class Bytes(BaseParser):
    """The file's bytes as they are, whatever they call themselves."""

    media_type = "*/*"

    def parse(self, stream: Any, media_type: Any = None, parser_context: Any = None) -> Any:
        return stream.read(services.MOST_BYTES + 1)


class PhotoSerializer(serializers.Serializer[Any]):
    """What an inspection's document calls the photo."""

    photo = serializers.CharField()
    width = serializers.IntegerField()
    height = serializers.IntegerField()


class PhotosView(ShopView):
    """Take a photo in."""

    parser_classes = [Bytes]

    @extend_schema(
        operation_id="keep_photo",
        request={"application/octet-stream": OpenApiTypes.BINARY},
        responses={201: PhotoSerializer},
    )
    def post(self, request: Request) -> Response:
        data = request.data if isinstance(request.data, bytes) else b""
        photo = services.keep(shop=self.user.shop, by=self.user, data=data)
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
