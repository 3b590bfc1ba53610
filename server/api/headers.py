"""What every answer says of itself to browsers and to what stands between."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from server.settings import SECURE

# What a secret address opens: found by no search, and telling nobody where it was.
UNSEEN = {"X-Robots-Tag": "noindex", "Referrer-Policy": "no-referrer"}
PERMISSIONS = "camera=(self), microphone=(self), geolocation=(), payment=(), usb=()"


class Private:
    """Answers of the API are one person's and are kept nowhere; pages use few powers."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.answer(request)
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "private, no-store")
        response.headers["Permissions-Policy"] = PERMISSIONS
        if SECURE:
            response.headers["Cross-Origin-Resource-Policy"] = "same-origin"
        return response
