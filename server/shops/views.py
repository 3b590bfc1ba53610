"""Signing in and out."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect
from drf_spectacular.utils import extend_schema
from rest_framework import exceptions, serializers, status
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from server.shops import second_factor
from server.shops.account_log import note
from server.shops.models import AccountEvent, User
from server.shops.sessions import DEVICE, MUST_ENROL, began

BACKEND = "django.contrib.auth.backends.ModelBackend"


class CredentialsSerializer(serializers.Serializer[Any]):
    email = serializers.EmailField()
    password = serializers.CharField(max_length=200, trim_whitespace=False)
    code = serializers.CharField(
        max_length=20, required=False, help_text="second factor, or recovery"
    )


class PersonSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField()
    name = serializers.CharField()
    email = serializers.EmailField()
    role = serializers.ChoiceField(choices=User.Role.choices)
    shop = serializers.CharField(source="shop.name")
    shop_id = serializers.UUIDField()
    measures = serializers.DictField(
        child=serializers.CharField(), help_text="the unit an empty field starts in, by dimension"
    )
    must_enrol = serializers.BooleanField(
        default=False, help_text="the shop wants a second factor, and there is none yet"
    )


@method_decorator(csrf_protect, name="dispatch")
class SessionView(APIView):
    """Who is signed in; sign in; sign out."""

    permission_classes = [AllowAny]

    @extend_schema(operation_id="session", responses=PersonSerializer)
    def get(self, request: Request) -> Response:
        get_token(request)
        if not isinstance(request.user, User):
            raise exceptions.NotAuthenticated
        return Response(person(request, request.user))

    @extend_schema(
        operation_id="sign_in", request=CredentialsSerializer, responses=PersonSerializer
    )
    def post(self, request: Request) -> Response:
        given = CredentialsSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        said = given.validated_data
        user = _known(request._request, said["email"].lower(), said["password"])
        if second_factor.confirmed(user):
            if not said.get("code"):
                raise exceptions.AuthenticationFailed(
                    "Now the figures of your authenticator, or a recovery code.", "second-factor"
                )
            if not second_factor.holds(user, said["code"]):
                raise exceptions.AuthenticationFailed(
                    "The figures are not right, or no longer.", "second-factor-wrong"
                )
        return signed_in(request, user)

    @extend_schema(operation_id="sign_out", request=None, responses={204: None})
    def delete(self, request: Request) -> Response:
        logout(request._request)
        # Photos were kept by the browser for whoever was signed in.
        headers = {"Clear-Site-Data": '"cache"'}
        return Response(status=status.HTTP_204_NO_CONTENT, headers=headers)


def signed_in(request: Request, user: User) -> Response:
    """Begin somebody's session, however they proved who they are."""
    login(request._request, user, backend=BACKEND)
    began(request._request, user)
    note(request._request, AccountEvent.Kind.CAME_IN, user, told=request.session[DEVICE])
    return Response(person(request, user))


def person(request: Request, user: User) -> dict[str, Any]:
    """Who is signed in, as the page is told."""
    return {
        **PersonSerializer(user).data,
        "must_enrol": bool(request.session.get(MUST_ENROL)),
    }


def _known(request: HttpRequest, email: str, password: str) -> User:
    """Whose e-mail and password these are; too many wrong ones from here or for it are put off."""
    user = authenticate(request, username=email, password=password)
    if getattr(request, "axes_locked_out", False):
        raise exceptions.Throttled(settings.AXES_COOLOFF_TIME.seconds)
    if not isinstance(user, User):
        raise exceptions.AuthenticationFailed("E-mail and password do not belong together.")
    return user
