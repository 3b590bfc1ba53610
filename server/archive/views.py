"""Leaving with everything."""

from __future__ import annotations

from collections.abc import Iterator

from django.http import StreamingHttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request

from server.api.replica import from_replica
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
            _read_apart(Archive(self.user.shop).stream()),
            content_type="application/zip",
            headers={"Content-Disposition": 'attachment; filename="fiacre-shop.zip"'},
        )


def _read_apart(pieces: Iterator[bytes]) -> Iterator[bytes]:
    """Piece by piece, each read from the replica: another request may come between two of them."""
    while True:
        with from_replica():
            piece = next(pieces, None)
        if piece is None:
            return
        yield piece
