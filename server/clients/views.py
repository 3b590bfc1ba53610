"""Clients over the API. Who only looks does not see who a shop works for."""

from __future__ import annotations

import json
from functools import reduce
from operator import or_
from typing import Any

from django.db import transaction
from django.db.models import Q
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import exceptions, serializers, status
from rest_framework.request import Request
from rest_framework.response import Response

from server.api.downloads import download
from server.api.views import ChangedMeanwhile, ShopView
from server.clients import services
from server.clients.models import Client
from server.engines.views import called
from server.shops.account_log import Kind, note

MOST_LISTED = 100


class ClientSerializer(serializers.ModelSerializer[Client]):
    name = serializers.CharField(max_length=200)
    engines = serializers.SerializerMethodField()

    class Meta:
        model = Client
        fields = ("id", *Client.PERSONAL, "erased", "engines", "version")
        read_only_fields = ("id", "erased")

    def get_engines(self, client: Client) -> list[str]:
        """What they own, by title."""
        return [engine.title for engine in client.engines.all()]


class ClientQuery(serializers.Serializer[Any]):
    """Which clients; every word has to occur in name, e-mail or phone."""

    q = serializers.CharField(required=False, default="", max_length=200, allow_blank=True)


class OwnerSerializer(serializers.Serializer[Any]):
    """Whose engine it is."""

    client = serializers.UUIDField(allow_null=True)


class ClientsOnlyView(ShopView):
    """A view of personal data: for those who write."""

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        super().initial(request, *args, **kwargs)
        if not self.user.may_write:
            raise exceptions.PermissionDenied("Your role in this shop is not to see its clients.")

    def one(self, client_id: Any) -> Client:
        return get_object_or_404(Client.objects.visible_to(self.user), pk=client_id)


class ClientsView(ClientsOnlyView):
    """The shop's clients, by name."""

    @extend_schema(
        operation_id="clients", parameters=[ClientQuery], responses=ClientSerializer(many=True)
    )
    def get(self, request: Request) -> Response:
        asked = ClientQuery(data=request.query_params)
        asked.is_valid(raise_exception=True)
        found = Client.objects.visible_to(self.user).filter(erased=None)
        for word in asked.validated_data["q"].split():
            places = (Q(**{f"{field}__icontains": word}) for field in ("name", "email", "phone"))
            found = found.filter(reduce(or_, places))
        rows = found.prefetch_related("engines")[:MOST_LISTED]
        return Response(ClientSerializer(rows, many=True).data)

    @extend_schema(
        operation_id="add_client", request=ClientSerializer, responses={201: ClientSerializer}
    )
    def post(self, request: Request) -> Response:
        given = ClientSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        client = given.save(shop=self.user.shop, version=1)
        return Response(ClientSerializer(client).data, status=status.HTTP_201_CREATED)


class ClientView(ClientsOnlyView):
    """One client."""

    owners_only = ("DELETE",)

    @extend_schema(
        operation_id="change_client", request=ClientSerializer, responses=ClientSerializer
    )
    def put(self, request: Request, client_id: str) -> Response:
        self.one(client_id)
        with transaction.atomic():
            client = Client.objects.select_for_update().get(pk=client_id)
            if client.erased:
                raise exceptions.ValidationError({"name": "somebody who was not erased"})
            given = ClientSerializer(client, data=request.data)
            given.is_valid(raise_exception=True)
            if given.validated_data.pop("version", None) != client.version:
                raise ChangedMeanwhile
            given.save(version=client.version + 1)
        return Response(ClientSerializer(client).data)

    @extend_schema(operation_id="erase_client", responses={204: None})
    def delete(self, request: Request, client_id: str) -> Response:
        services.erase(self.one(client_id))
        note(request._request, Kind.ERASED, self.user, told=f"client {client_id}")
        return Response(status=status.HTTP_204_NO_CONTENT)


class ClientDataView(ClientsOnlyView):
    """All that is kept of one client, as a file for them."""

    @extend_schema(
        operation_id="client_data", responses={(200, "application/json"): OpenApiTypes.OBJECT}
    )
    def get(self, request: Request, client_id: str) -> Any:
        client = self.one(client_id)
        note(request._request, Kind.EXPORTED, self.user, told=f"client {client_id}")
        data = json.dumps(services.everything(client), ensure_ascii=False, indent=2).encode()
        return download(data, "application/json", f"client-{client.pk}.json")


class EngineOwnerView(ClientsOnlyView):
    """Whose engine one is."""

    @extend_schema(operation_id="engine_owner", responses=OwnerSerializer)
    def get(self, request: Request, engine_id: str) -> Response:
        engine = called(self.user, engine_id)
        return Response({"client": engine.client_id})

    @extend_schema(
        operation_id="set_engine_owner", request=OwnerSerializer, responses=OwnerSerializer
    )
    def put(self, request: Request, engine_id: str) -> Response:
        engine = called(self.user, engine_id)
        given = OwnerSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        client = given.validated_data["client"]
        engine.client = self.one(client) if client else None
        engine.save(update_fields=["client"])
        return Response({"client": engine.client_id})
