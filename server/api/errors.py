"""How refusals leave the server: always JSON, always a code, never a trace."""

from __future__ import annotations

import logging
import sys
from typing import Any

from django.core.exceptions import ObjectDoesNotExist, RequestDataTooBig
from django.db import InterfaceError, OperationalError
from django.http import Http404, HttpRequest, JsonResponse
from psycopg import errors
from rest_framework import exceptions, status
from rest_framework.response import Response
from rest_framework.views import exception_handler, set_rollback

from core.errors import CoreError, DocumentRefused
from server.bodies import TOO_LARGE
from server.weigher import NotWeighed

DATABASE_AWAY = {
    "code": "database-away",
    "detail": "The database does not answer. What you entered is kept and sent again.",
}

DATABASE_BUSY = {
    "code": "database-busy",
    "detail": "Others are at the same rows. What you entered is kept and sent again.",
}
NOT_WEIGHED = {
    "code": "not-weighed",
    "detail": "What follows from this could not be worked out in time. What was entered is kept.",
}
BUSY = (errors.DeadlockDetected, errors.LockNotAvailable, errors.QueryCanceled,
        errors.SerializationFailure)  # fmt: skip
log = logging.getLogger("fiacre.database")


def unanswered(error: Exception) -> dict[str, str]:
    """Why the database did not answer: it is away, or others were at the same rows; logged."""
    log.error("%s: %s", type(error.__cause__ or error).__name__, str(error).split("\n")[0])
    return DATABASE_BUSY if isinstance(error.__cause__, BUSY) else DATABASE_AWAY


def refusal(error: CoreError) -> dict[str, Any]:
    """A refusal of the core as the API spells it."""
    problems = error.problems if isinstance(error, DocumentRefused) else [error]
    return {
        "code": error.code,
        "detail": str(problems[0]),
        "problems": [
            {"code": p.code, "path": p.path, "value": p.value, "expected": p.expected}
            for p in problems
        ],
    }


def handle(error: Exception, context: dict[str, Any]) -> Response | None:
    """DRF's hook: refusals of the core are 400, an absent database is 503."""
    if isinstance(error, CoreError):
        set_rollback()
        return Response(refusal(error), status=status.HTTP_400_BAD_REQUEST)
    if isinstance(error, OperationalError | InterfaceError):
        set_rollback()
        return Response(unanswered(error), status=status.HTTP_503_SERVICE_UNAVAILABLE)
    if isinstance(error, NotWeighed):
        set_rollback()
        return Response(NOT_WEIGHED, status=status.HTTP_503_SERVICE_UNAVAILABLE)
    if isinstance(error, RequestDataTooBig):
        return Response(TOO_LARGE, status=status.HTTP_413_REQUEST_ENTITY_TOO_LARGE)
    if isinstance(error, ObjectDoesNotExist):
        error = Http404()  # Gone between being found and being locked.
    response = exception_handler(error, context)
    if response is not None and isinstance(error, exceptions.ValidationError):
        problems = list(_problems(response.data, ""))
        response.data = {
            "code": "invalid",
            "detail": "; ".join(f"{p['path']}: {p['expected']}" for p in problems),
            "problems": problems,
        }
    elif response is not None and isinstance(response.data, dict):
        code = getattr(getattr(response.data.get("detail"), "code", None), "__str__", str)()
        response.data["code"] = code or "refused"
        response.data.setdefault("problems", [])
    return response


def _problems(detail: Any, path: str) -> Any:
    if isinstance(detail, dict):
        for key, inner in detail.items():
            yield from _problems(inner, f"{path}/{key}")
    elif isinstance(detail, list):
        for index, inner in enumerate(detail):
            nested = isinstance(inner, dict | list)
            yield from _problems(inner, f"{path}/{index}" if nested else path)
    else:
        yield {"code": detail.code, "path": path, "value": "", "expected": str(detail)}


def _json(code: str, detail: str, status_code: int) -> JsonResponse:
    return JsonResponse({"code": code, "detail": detail, "problems": []}, status=status_code)


def not_found(request: HttpRequest, exception: Exception) -> JsonResponse:
    return _json("not-found", "There is nothing here.", 404)


def bad_request(request: HttpRequest, exception: Exception) -> JsonResponse:
    return _json("bad-request", "This cannot be read as a request.", 400)


def failed(request: HttpRequest) -> JsonResponse:
    error = sys.exc_info()[1]
    if isinstance(error, OperationalError | InterfaceError):
        told = unanswered(error)
        return _json(told["code"], told["detail"], 503)
    return _json("failed", "Something went wrong on the server; it has been logged.", 500)


def csrf_failure(request: HttpRequest, reason: str = "") -> JsonResponse:
    return _json("csrf", "The page is out of date; load it again.", 403)
