"""Leaving with everything."""

from __future__ import annotations

from django.http import StreamingHttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request

from server.api.views import ShopView
from server.archive.writing import Archive


class ShopArchiveView(ShopView):
    """Everything the shop has, in open formats."""

    owners_only = ("GET",)

    @extend_schema(
        operation_id="shop_archive", responses={(200, "application/zip"): OpenApiTypes.BINARY}
    )
    def get(self, request: Request) -> StreamingHttpResponse:
        return StreamingHttpResponse(
            Archive(self.user.shop).stream(),
            content_type="application/zip",
            headers={"Content-Disposition": 'attachment; filename="fiacre-shop.zip"'},
        )
