"""Keys over the API, and the calendar that one of them opens."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe
from drf_spectacular.utils import extend_schema
from icalendar import Calendar, Event
from rest_framework import exceptions, serializers, status
from rest_framework.request import Request
from rest_framework.response import Response

from server.api.headers import UNSEEN
from server.api.views import ShopView
from server.inspections.due import due_of_shop
from server.inspections.models import Inspection
from server.shops import keys, second_factor
from server.shops.account_log import Kind, note
from server.shops.account_views import Guessing, OwnThingsView, PasswordField
from server.shops.models import AccessKey


class AccessKeySerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField(read_only=True)
    name = serializers.CharField(max_length=100)
    scope = serializers.ChoiceField(choices=AccessKey.Scope.choices)
    days = serializers.IntegerField(
        min_value=1, max_value=keys.MOST_DAYS, default=90, write_only=True
    )
    expires = serializers.DateTimeField(read_only=True)
    used = serializers.DateTimeField(read_only=True, allow_null=True)


class MadeKeySerializer(AccessKeySerializer):
    """What a new key takes: it outlives the session, so the session alone does not make one."""

    password = PasswordField()
    code = serializers.CharField(
        max_length=20,
        required=False,
        allow_blank=True,
        write_only=True,
        help_text="of the second factor, where there is one",
    )


class ShopKeySerializer(AccessKeySerializer):
    person = serializers.CharField(source="user.name", read_only=True)


class NewKeySerializer(serializers.Serializer[Any]):
    secret = serializers.CharField(help_text="shown this once")
    address = serializers.CharField(help_text="of a calendar; empty otherwise", allow_blank=True)


class MyKeysView(OwnThingsView):
    """One's own keys for other programs."""

    throttle_classes = [Guessing]

    @extend_schema(operation_id="my_keys", responses=AccessKeySerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(AccessKeySerializer(self.user.keys.all(), many=True).data)

    @extend_schema(
        operation_id="make_key", request=MadeKeySerializer, responses={201: NewKeySerializer}
    )
    def post(self, request: Request) -> Response:
        given = MadeKeySerializer(data=request.data)
        given.is_valid(raise_exception=True)
        asked = dict(given.validated_data)
        self.check_password(asked.pop("password"))
        self._check_factor(asked.pop("code", ""))
        made, secret = keys.make(self.user, **asked)
        note(request._request, Kind.KEY_MADE, self.user, told=made.name)
        calendar = made.scope == AccessKey.Scope.CALENDAR
        address = request.build_absolute_uri(f"/calendar/{secret}.ics") if calendar else ""
        body = {"secret": secret, "address": address}
        return Response(NewKeySerializer(body).data, status=status.HTTP_201_CREATED)

    def _check_factor(self, code: str) -> None:
        """Go on only with a code where there is a factor; without one not, where it is wanted."""
        has = second_factor.confirmed(self.user)
        if not has and self.user.shop.second_factor:
            raise exceptions.PermissionDenied("This shop wants a second factor first.", "required")
        if has and not second_factor.holds(self.user, code):
            raise exceptions.PermissionDenied("That is not the code shown now.", "wrong-code")


class ShopKeysView(ShopView):
    """Every key into the shop, whoever's it is, for its owners."""

    owners_only = ("GET",)

    @extend_schema(operation_id="shop_keys", responses=ShopKeySerializer(many=True))
    def get(self, request: Request) -> Response:
        rows = AccessKey.objects.filter(user__shop_id=self.user.shop_id).select_related("user")
        return Response(ShopKeySerializer(rows, many=True).data)


class ShopKeyView(ShopView):
    """Taking somebody's back."""

    owners_only = ("DELETE",)

    @extend_schema(operation_id="revoke_shop_key", responses={204: None})
    def delete(self, request: Request, key_id: str) -> Response:
        rows = AccessKey.objects.filter(user__shop_id=self.user.shop_id)
        key = get_object_or_404(rows, pk=key_id)
        key.delete()
        note(request._request, Kind.KEY_TAKEN, key.user, told=key.name)
        return Response(status=status.HTTP_204_NO_CONTENT)


class MyKeyView(OwnThingsView):
    """Taking one back."""

    @extend_schema(operation_id="revoke_key", responses={204: None})
    def delete(self, request: Request, key_id: str) -> Response:
        key = get_object_or_404(self.user.keys, pk=key_id)
        key.delete()
        note(request._request, Kind.KEY_TAKEN, self.user, told=key.name)
        return Response(status=status.HTTP_204_NO_CONTENT)


@require_safe
@never_cache
def calendar(request: HttpRequest, secret: str) -> HttpResponse:
    """What is to be looked at again (RFC 5545), for whoever holds the address."""
    key = keys.followed(secret, AccessKey.Scope.CALENDAR)
    if key is None:
        raise Http404
    made = Calendar()
    made.add("prodid", "-//Fiacre//EN")
    made.add("version", "2.0")
    made.add("x-wr-calname", f"{key.user.shop.name}: to look at again")
    rows = Inspection.objects.visible_to(key.user).filter(follow_up__isnull=False, archived=False)
    for row in rows.select_related("engine").order_by("follow_up", "pk"):
        event = _event(f"{row.pk}@fiacre", row, row.follow_up)
        event.add("summary", f"Look again: {row.engine.title}")
        event.add("description", row.verdict)
        event.add("url", request.build_absolute_uri(f"/inspections/{row.pk}"))
        made.add_component(event)
    for one in due_of_shop(key.user):
        if one.due.on and one.due.kind != "again":  # What was promised stands there already.
            name = f"{one.engine.pk}-{one.due.kind}-{one.due.on}@fiacre"
            event = _event(name, one.inspection, date.fromisoformat(one.due.on))
            event.add("summary", f"Due: {one.engine.title}")
            event.add("description", one.due.text)
            event.add("url", request.build_absolute_uri(f"/engines/{one.engine.pk}"))
            made.add_component(event)
    return HttpResponse(made.to_ical(), content_type="text/calendar; charset=utf-8", headers=UNSEEN)


def _event(name: str, inspection: Inspection, day: date | None) -> Event:
    event = Event()
    event.add("uid", name)
    event.add("dtstamp", inspection.changed)
    event.add("dtstart", day)
    return event
