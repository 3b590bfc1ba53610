"""Signing in and out."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import authenticate, login, logout
from django.middleware.csrf import get_token
from drf_spectacular.utils import extend_schema
from rest_framework import exceptions, serializers, status
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.throttling import SimpleRateThrottle
from rest_framework.views import APIView

from server.api.views import ShopView
from server.shops.models import User


class LogInThrottle(SimpleRateThrottle):
    """So many tries a minute for an address and an e-mail together."""

    scope = "log-in"

    def get_cache_key(self, request: Request, view: APIView) -> str | None:
        if request.method != "POST":
            return None
        email = str(request.data.get("email", "")) if isinstance(request.data, dict) else ""
        ident = f"{self.get_ident(request)}|{email.lower()[:200]}"
        return self.cache_format % {"scope": self.scope, "ident": ident.encode().hex()[:200]}


class CredentialsSerializer(serializers.Serializer[Any]):
    email = serializers.EmailField()
    password = serializers.CharField(max_length=200, trim_whitespace=False)


class PersonSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField()
    name = serializers.CharField()
    email = serializers.EmailField()
    role = serializers.ChoiceField(choices=User.Role.choices)
    shop = serializers.CharField(source="shop.name")
    shop_id = serializers.UUIDField()


class SessionView(APIView):
    """Who is signed in; sign in; sign out."""

    permission_classes = [AllowAny]
    throttle_classes = [LogInThrottle]

    @extend_schema(operation_id="session", responses=PersonSerializer)
    def get(self, request: Request) -> Response:
        get_token(request)
        if not isinstance(request.user, User):
            raise exceptions.NotAuthenticated
        return Response(PersonSerializer(request.user).data)

    @extend_schema(
        operation_id="sign_in", request=CredentialsSerializer, responses=PersonSerializer
    )
    def post(self, request: Request) -> Response:
        given = CredentialsSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        user = authenticate(
            request,
            username=given.validated_data["email"].lower(),
            password=given.validated_data["password"],
        )
        if not isinstance(user, User):
            raise exceptions.AuthenticationFailed("E-mail and password do not belong together.")
        login(request._request, user)
        return Response(PersonSerializer(user).data)

    @extend_schema(operation_id="sign_out", request=None, responses={204: None})
    def delete(self, request: Request) -> Response:
        logout(request._request)
        # Photos were kept by the browser for whoever was signed in.
        headers = {"Clear-Site-Data": '"cache"'}
        return Response(status=status.HTTP_204_NO_CONTENT, headers=headers)


class ColleagueSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField()
    name = serializers.CharField()


class PeopleView(ShopView):
    """Who works in this shop."""

    @extend_schema(operation_id="people", responses=ColleagueSerializer(many=True))
    def get(self, request: Request) -> Response:
        people = User.objects.filter(shop_id=self.user.shop_id).order_by("name", "id")
        return Response(ColleagueSerializer(people, many=True).data)
