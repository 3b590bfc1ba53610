"""The one page: it loads the built front end and hands it a nonce and a CSRF cookie."""

from __future__ import annotations

import json
from functools import lru_cache
from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe

ENTRY = "src/main.tsx"


@lru_cache(maxsize=1)
def built() -> dict[str, Any]:
    """The front end's entry in the build's manifest."""
    manifest = settings.BUILT_FRONT / ".vite" / "manifest.json"
    entry: dict[str, Any] = json.loads(manifest.read_text("utf-8"))[ENTRY]
    return entry


@require_safe
def worker(request: HttpRequest) -> HttpResponse:
    """The service worker, from the root: only so may it answer for every page."""
    script = (settings.BUILT_FRONT / "sw.js").read_text("utf-8")
    return HttpResponse(
        script, content_type="text/javascript", headers={"Cache-Control": "no-cache"}
    )


@require_safe
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    return render(request, "page.html", {"entry": built()})
