"""A photo joins a list of an inspection: one request, so that none is kept and never linked."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from core.document.shapes import MOST_CYLINDERS
from core.errors import CoreError
from server.api.parsers import Bytes, sent
from server.api.views import ShopView
from server.inspections.log import Said, append
from server.inspections.models import Inspection
from server.inspections.serializers import EntryAnswerSerializer
from server.inspections.views import WrittenQuery, written
from server.photos import services


class PictureBytes(Bytes):
    """A picture's file."""

    most = services.MOST_BYTES


class JoinSerializer(WrittenQuery):
    """Where a photo belongs, and whose it is; as SaidSerializer says it of a word."""

    client_id = serializers.UUIDField()
    path = serializers.CharField(max_length=300)
    author = serializers.UUIDField(required=False)
    device = serializers.UUIDField(required=False)
    made = serializers.DateTimeField(required=False)
    numbering = serializers.RegexField(
        rf"^\d{{1,2}}(,\d{{1,2}}){{0,{MOST_CYLINDERS - 1}}}$", required=False
    )


class InspectionPhotosView(ShopView):
    """Take a photo in; sending it again changes nothing."""

    parser_classes = [PictureBytes]

    @extend_schema(
        operation_id="add_photo",
        parameters=[JoinSerializer],
        request={"application/octet-stream": OpenApiTypes.BINARY},
        responses=EntryAnswerSerializer,
    )
    def post(self, request: Request, inspection_id: str) -> Response:
        inspection = get_object_or_404(Inspection.objects.visible_to(self.user), pk=inspection_id)
        given = JoinSerializer(data=request.query_params)
        given.is_valid(raise_exception=True)
        asked = dict(given.validated_data)
        later = asked.pop("weigh", None) is not None
        by = self.written_by(asked.pop("author", None))
        if not asked["path"].endswith("/photos"):
            raise CoreError("path", asked["path"], None, "a list of photos")
        numbering = asked.pop("numbering", None)
        said = Said(
            **asked, numbering=[int(one) for one in numbering.split(",")] if numbering else None
        )
        photo = services.keep(shop=self.user.shop, by=by, data=sent(request))
        entry = f"sha256:{photo.sha256}"
        sent_by = self.sends_for(by)
        kept = append(inspection_id=inspection.pk, said=said, entry=entry, by=by, sent_by=sent_by)
        return written(kept, later=later)
