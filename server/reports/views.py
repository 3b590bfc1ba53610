"""Reports, signing off, links and exports."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils.translation.trans_real import parse_accept_lang_header
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers, status
from rest_framework.request import Request
from rest_framework.response import Response

from core.assessment import Assessment
from core.document.records import Document
from core.language import ENGLISH, LANGUAGES, say, speaking
from core.telling import stands_open
from server.api.downloads import download, table
from server.api.headers import UNSEEN
from server.api.views import ShopView
from server.inspections.models import Inspection
from server.inspections.services import up_to_date
from server.reports import exports, services
from server.reports.models import ReportLink
from server.reports.pdf import html, job_pdf, pdf
from server.shops.models import Units

SPOKEN = list(LANGUAGES.items())
UNITS = Units.values
IN_LANGUAGE = OpenApiParameter("language", OpenApiTypes.STR, enum=list(LANGUAGES))


class SigningSerializer(serializers.Serializer[Any]):
    by = serializers.CharField(source="content.signed.by")
    at = serializers.DateTimeField()
    digest = serializers.CharField()
    stands = serializers.BooleanField()
    reason = serializers.CharField(allow_blank=True)


class LinkSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField(read_only=True)
    made = serializers.DateTimeField(read_only=True)
    expires = serializers.DateTimeField(read_only=True)
    open = serializers.BooleanField(read_only=True)
    units = serializers.ChoiceField(choices=UNITS)
    photos = serializers.BooleanField()
    language = serializers.ChoiceField(choices=SPOKEN)
    address = serializers.CharField(read_only=True, required=False)


class NewLinkSerializer(serializers.Serializer[Any]):
    days = serializers.IntegerField(min_value=1, max_value=services.MOST_DAYS, default=30)
    units = serializers.ChoiceField(
        choices=UNITS, required=False, help_text="the shop's where none are given"
    )
    photos = serializers.BooleanField(default=False)
    language = serializers.ChoiceField(
        choices=SPOKEN, required=False, help_text="the shop's where none is given"
    )


class HandingOverSerializer(serializers.Serializer[Any]):
    """Whether it is signed, what was signed before, and who may read it."""

    signed = SigningSerializer(allow_null=True)
    open = serializers.ListField(
        child=serializers.CharField(), help_text="what is asked before it is signed"
    )
    history = SigningSerializer(many=True)
    links = LinkSerializer(many=True)


class ReopenSerializer(serializers.Serializer[Any]):
    reason = serializers.CharField(max_length=1000)


class ReportQuery(serializers.Serializer[Any]):
    units = serializers.ChoiceField(
        choices=UNITS, required=False, help_text="the shop's where none are given"
    )
    photos = serializers.BooleanField(default=False)
    language = serializers.ChoiceField(choices=SPOKEN, required=False)


class InspectionPartView(ShopView):
    """A view of something that belongs to one inspection."""

    def inspection(self, inspection_id: str) -> Inspection:
        rows = Inspection.objects.visible_to(self.user).select_related("shop", "opened_by")
        return get_object_or_404(rows, pk=inspection_id)


class HandingOverView(InspectionPartView):
    """Signing off, reopening."""

    @extend_schema(operation_id="handing_over", responses=HandingOverSerializer)
    def get(self, request: Request, inspection_id: str) -> Response:
        return handing_over(self.inspection(inspection_id))

    @extend_schema(operation_id="sign_off", request=None, responses=HandingOverSerializer)
    def post(self, request: Request, inspection_id: str) -> Response:
        inspection = self.inspection(inspection_id)
        services.sign(inspection=inspection, by=self.user)
        return handing_over(inspection)


class ReopenView(InspectionPartView):
    """Opening a signed inspection for an amendment."""

    owners_only = ("POST",)

    @extend_schema(operation_id="reopen", request=ReopenSerializer, responses=HandingOverSerializer)
    def post(self, request: Request, inspection_id: str) -> Response:
        given = ReopenSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        inspection = self.inspection(inspection_id)
        services.reopen(inspection=inspection, by=self.user, **given.validated_data)
        return handing_over(inspection)


class LinksView(InspectionPartView):
    """Making a link for a client."""

    owners_only = ("POST",)

    @extend_schema(
        operation_id="make_link", request=NewLinkSerializer, responses={201: LinkSerializer}
    )
    def post(self, request: Request, inspection_id: str) -> Response:
        given = NewLinkSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        inspection = self.inspection(inspection_id)
        asked = {**_usual(inspection), **given.validated_data}
        made, secret = services.link(inspection=inspection, by=self.user, **asked)
        body = {**_link(made), "address": request.build_absolute_uri(f"/r/{secret}")}
        return Response(LinkSerializer(body).data, status=status.HTTP_201_CREATED)


class LinkView(InspectionPartView):
    """Closing one."""

    owners_only = ("DELETE",)

    @extend_schema(operation_id="revoke_link", responses={204: None})
    def delete(self, request: Request, inspection_id: str, link_id: str) -> Response:
        inspection = self.inspection(inspection_id)
        services.revoke(get_object_or_404(inspection.links, pk=link_id))
        return Response(status=status.HTTP_204_NO_CONTENT)


class ReportView(InspectionPartView):
    """The client's report."""

    @extend_schema(
        operation_id="report",
        parameters=[
            OpenApiParameter("units", OpenApiTypes.STR, enum=UNITS),
            OpenApiParameter("photos", OpenApiTypes.BOOL),
            IN_LANGUAGE,
        ],
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, inspection_id: str) -> HttpResponse:
        asked = ReportQuery(data=request.query_params)
        asked.is_valid(raise_exception=True)
        inspection = self.inspection(inspection_id)
        return _pdf(inspection, **{**_usual(inspection), **asked.validated_data})


class JobSheetView(InspectionPartView):
    """The mechanic's sheet: what to do, plug by plug, and labels for the set."""

    @extend_schema(
        operation_id="job_sheet",
        parameters=[OpenApiParameter("units", OpenApiTypes.STR, enum=UNITS), IN_LANGUAGE],
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, inspection_id: str) -> HttpResponse:
        asked = ReportQuery(data=request.query_params)
        asked.is_valid(raise_exception=True)
        inspection = self.inspection(inspection_id)
        wanted = {**_usual(inspection), **asked.validated_data}
        with speaking(wanted["language"]):
            made = job_pdf(inspection, wanted["units"])
        return download(made, "application/pdf", f"job-{inspection.date}.pdf", inline=True)


class SignedFileView(InspectionPartView):
    """What was signed, with its digest, for anybody to check."""

    @extend_schema(operation_id="signed_file", responses=OpenApiTypes.OBJECT)
    def get(self, request: Request, inspection_id: str) -> HttpResponse:
        signing = services.standing(self.inspection(inspection_id))
        if signing is None:
            raise Http404
        made = exports.signed_file(signing.content)
        return download(made, "application/json", f"signed-{signing.digest[:8]}.json")


TABLES = {"cylinders": exports.cylinder_rows, "readings": exports.reading_rows}


class TableView(InspectionPartView):
    """CSV: one row a cylinder, or one a reading."""

    kind = "cylinders"

    @extend_schema(responses={(200, "text/csv"): OpenApiTypes.STR})
    def get(self, request: Request, inspection_id: str) -> HttpResponse:
        inspection = self.inspection(inspection_id)
        rows = TABLES[self.kind](inspection.document, inspection.assessment)
        return table(rows, f"{self.kind}-{str(inspection.pk)[:8]}.csv")


@require_safe
@never_cache
def shared(request: HttpRequest, secret: str, as_pdf: bool = False) -> HttpResponse:
    """A report for whoever holds its link: this one report, and nothing else of the shop."""
    link = services.followed(secret)
    if link is None:
        with speaking(_read_by(request)):
            gone = say("This link has expired or was taken back. Ask the shop for a new one.")
        return HttpResponse(gone, status=404, content_type="text/plain; charset=utf-8")
    wanted = request.GET.get("language", "")
    language = wanted if wanted in LANGUAGES else link.language
    own = language == link.language
    if as_pdf:
        made = _pdf(link.inspection, link.units, link.photos, language, signed_only=True)
        for name, value in UNSEEN.items():
            made[name] = value
        return made
    nonce = str(getattr(request, "csp_nonce", ""))
    with speaking(language):
        page = html(
            link.inspection,
            link.units,
            photos=link.photos,
            signed_only=True,
            nonce=nonce,
            pdf_address=f"/r/{secret}/report.pdf" + ("" if own else f"?language={language}"),
            others=[one for one in SPOKEN if one[0] != language],
        )
    return HttpResponse(page, headers=UNSEEN)


def _usual(inspection: Inspection) -> dict[str, str]:
    """How the shop's reports are where nobody chooses otherwise."""
    return {"units": inspection.shop.units, "language": inspection.shop.language}


def _read_by(request: HttpRequest) -> str:
    """The language that somebody's browser asks for, of those that are spoken."""
    accepted = parse_accept_lang_header(request.headers.get("Accept-Language", ""))
    asked = (one.partition("-")[0] for one, _ in accepted)
    return next((one for one in asked if one in LANGUAGES), ENGLISH)


def handing_over(inspection: Inspection) -> Response:
    signings = list(inspection.signings.all())
    standing = next((one for one in reversed(signings) if one.stands), None)
    body: dict[str, Any] = {
        "signed": standing,
        "open": [] if standing else _open(inspection),
        "history": [one for one in signings if not one.stands],
        "links": [_link(one) for one in inspection.links.all()],
    }
    return Response(HandingOverSerializer(body).data)


def _open(inspection: Inspection) -> list[str]:
    current = up_to_date(inspection)
    read = Assessment.of(current.assessment)
    return stands_open(Document.of(current.document), read.warnings)


def _link(made: ReportLink) -> dict[str, Any]:
    return {
        "id": made.pk,
        "made": made.made,
        "expires": made.expires,
        "open": made.is_open,
        "units": made.units,
        "photos": made.photos,
        "language": made.language,
    }


def _pdf(
    inspection: Inspection, units: str, photos: bool, language: str, *, signed_only: bool = False
) -> HttpResponse:
    name = f"report-{inspection.date or 'undated'}-{str(inspection.pk)[:8]}.pdf"
    with speaking(language):
        made = pdf(inspection, units, photos=photos, signed_only=signed_only)
    return download(made, "application/pdf", name, inline=True)
