"""Who may do what over the API. Denied unless said otherwise."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from drf_spectacular.extensions import OpenApiAuthenticationExtension
from rest_framework import exceptions
from rest_framework.authentication import BaseAuthentication, SessionAuthentication
from rest_framework.permissions import SAFE_METHODS, BasePermission
from rest_framework.request import Request
from rest_framework.throttling import BaseThrottle, SimpleRateThrottle

from server.shops import keys
from server.shops.models import AccessKey
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
        return found if found is None or prolong(request._request) else None

    def enforce_csrf(self, request: Any) -> None:
        try:
            super().enforce_csrf(request)
        except exceptions.PermissionDenied:
            raise OutOfDate from None

    def authenticate_header(self, request: Request) -> str:
        return "Session"


class Key(BaseAuthentication):
    """A key of somebody's, in the header: no cookie, so no page can borrow it."""

    def authenticate(self, request: Request) -> Any:
        kind, _, secret = request.headers.get("Authorization", "").partition(" ")
        if kind.lower() != "bearer":
            return None
        key = keys.followed(secret.strip(), AccessKey.Scope.READ, AccessKey.Scope.WRITE)
        if key is None:
            raise exceptions.AuthenticationFailed("This key opens nothing, or no longer.")
        return key.user, key

    def authenticate_header(self, request: Request) -> str:
        return "Bearer"


class KeyScheme(OpenApiAuthenticationExtension):
    target_class = Key
    name = "key"

    def get_security_definition(self, auto_schema: Any) -> dict[str, str]:
        return {"type": "http", "scheme": "bearer"}


class KeyThrottle(SimpleRateThrottle):
    """So many requests a minute with one key; people at pages are not counted."""

    scope = "key"

    def get_cache_key(self, request: Request, view: Any) -> str | None:
        if not isinstance(request.auth, AccessKey):
            return None
        return self.cache_format % {"scope": self.scope, "ident": request.auth.pk.hex}


class SessionScheme(OpenApiAuthenticationExtension):
    target_class = Session
    name = "session"

    def get_security_definition(self, auto_schema: Any) -> dict[str, str]:
        return {"type": "apiKey", "in": "cookie", "name": "sessionid"}


class SignedIn(BasePermission):
    """Anybody of a shop: for what changes nothing but a person's own things."""

    def has_permission(self, request: Request, view: Any) -> bool:
        if isinstance(request.auth, AccessKey):
            raise exceptions.PermissionDenied("A key does not change its person.", "not-by-key")
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
        if request.method in getattr(view, "owners_only", ()):
            if isinstance(request.auth, AccessKey):
                raise exceptions.PermissionDenied("An owner does this at the page.", "not-by-key")
            if not user.is_owner:
                raise exceptions.PermissionDenied("This is for an owner.", "owners-only")
        if request.method in SAFE_METHODS:
            return True
        reads = isinstance(request.auth, AccessKey) and request.auth.scope == AccessKey.Scope.READ
        return bool(user.may_write) and not reads
