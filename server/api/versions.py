"""The address that other programs use: it names the version of what they were written for."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

CURRENT = "/api/v1/"
OWN = "/api/"


class Versioned:
    """Middleware: `/api/v1/...` is the API as it is today; a version that is gone answers 404.

    The pages of the application use the address without a version: they come with their server.
    """

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.path_info.startswith(CURRENT):
            request.path_info = OWN + request.path_info.removeprefix(CURRENT)
        return self.answer(request)
