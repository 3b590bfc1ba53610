"""Answers that are files."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from typing import Any

from django.http import HttpResponse

CSV = "text/csv; charset=utf-8"


def download(data: bytes, kind: str, name: str, *, inline: bool = False) -> HttpResponse:
    """A file to keep, or to show at once."""
    how = "inline" if inline else "attachment"
    return HttpResponse(
        data, content_type=kind, headers={"Content-Disposition": f'{how}; filename="{name}"'}
    )


def table(rows: Iterable[list[Any]], name: str) -> HttpResponse:
    """Rows as a CSV file."""
    text = io.StringIO()
    csv.writer(text).writerows(rows)
    return download(text.getvalue().encode(), CSV, name)
