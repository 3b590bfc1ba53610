"""Leaving with everything."""

from __future__ import annotations

from django.http import FileResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request

from server.api.views import ShopView
from server.archive.writing import whole
from server.shops.account_log import Kind, note


class ShopArchiveView(ShopView):
    """Everything the shop has, in open formats, as it stood when it was asked for."""

    owners_only = ("GET",)

    @extend_schema(
        operation_id="shop_archive", responses={(200, "application/zip"): OpenApiTypes.BINARY}
    )
    def get(self, request: Request) -> FileResponse:
        note(request._request, Kind.EXPORTED, self.user, told="the shop's archive")
        return FileResponse(
            whole(self.user.shop),
            as_attachment=True,
            filename="fiacre-shop.zip",
            content_type="application/zip",
        )
