"""Who may do what over the API. Denied unless said otherwise."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from drf_spectacular.extensions import OpenApiAuthenticationExtension
from rest_framework import exceptions
from rest_framework.authentication import SessionAuthentication
from rest_framework.permissions import SAFE_METHODS, BasePermission
from rest_framework.request import Request
from rest_framework.throttling import BaseThrottle

from server.shops.sessions import MUST_ENROL, prolong


def address_of(request: HttpRequest) -> str:
    """Where a request comes from, as many proxies in front as the settings say."""
    return str(BaseThrottle().get_ident(Request(request)))


class OutOfDate(exceptions.PermissionDenied):
    """The page's CSRF token is not the session's: asked for anew, the same request passes."""

    default_code = "csrf"
    default_detail = "The page is out of date; load it again."


class Session(SessionAuthentication):
    """Session cookie with CSRF; without it the answer is 401, not 403."""

    def authenticate(self, request: Request) -> Any:
        found = super().authenticate(request)
        if found is not None:
            prolong(request._request)
        return found

    def enforce_csrf(self, request: Any) -> None:
        try:
            super().enforce_csrf(request)
        except exceptions.PermissionDenied:
            raise OutOfDate from None

    def authenticate_header(self, request: Request) -> str:
        return "Session"


class SessionScheme(OpenApiAuthenticationExtension):
    target_class = Session
    name = "session"

    def get_security_definition(self, auto_schema: Any) -> dict[str, str]:
        return {"type": "apiKey", "in": "cookie", "name": "sessionid"}


class SignedIn(BasePermission):
    """Anybody of a shop: for what changes nothing but a person's own things."""

    def has_permission(self, request: Request, view: Any) -> bool:
        return request.user is not None


class ReadersReadWritersWrite(BasePermission):
    """Nobody without a session; viewers look, inspectors write, owners decide.

    A view names in `owners_only` the methods that are the owner's.
    """

    message = "Your role in this shop is to look, not to write."

    def has_permission(self, request: Request, view: Any) -> bool:
        user: Any = request.user
        if getattr(user, "may_write", None) is None:
            return False
        if getattr(request, "session", {}).get(MUST_ENROL):
            raise exceptions.PermissionDenied(
                "This shop wants a second factor: add yours first.", "second-factor-required"
            )
        if request.method in getattr(view, "owners_only", ()) and not user.is_owner:
            raise exceptions.PermissionDenied("This is for an owner of the shop.", "owners-only")
        return request.method in SAFE_METHODS or bool(user.may_write)
