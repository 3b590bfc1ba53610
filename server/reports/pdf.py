"""The report as a page for the eye and as a PDF, both from one template."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import Any
from urllib.parse import unquote, urlsplit

from django.conf import settings
from django.template.loader import render_to_string

from server.inspections.models import Inspection
from server.reports.content import content, digest_shown
from server.reports.job import job_content

FONTS: Path = settings.REPORT_FONTS
ON_SCREEN = f"{settings.STATIC_URL}report-fonts/"


def html(
    inspection: Inspection,
    units: str,
    *,
    photos: bool,
    signed_only: bool = False,
    nonce: str = "",
    fonts: str = ON_SCREEN,
    pdf_address: str = "",
    others: Sequence[tuple[str, str]] = (),
) -> str:
    """The report as one page that needs nothing from elsewhere but its fonts."""
    said = content(inspection, units, photos=photos, signed_only=signed_only)
    digest = digest_shown(said["signing"]) if said["signing"] else ""
    return render_to_string(
        "report.html",
        {
            **said,
            "digest": digest,
            "nonce": nonce,
            "fonts": fonts,
            "pdf_address": pdf_address,
            "others": others,
        },
    )


def pdf(inspection: Inspection, units: str, *, photos: bool, signed_only: bool = False) -> bytes:
    """The report as a tagged PDF with selectable text and its fonts inside."""
    return printed(html(inspection, units, photos=photos, signed_only=signed_only, fonts=""))


def job_pdf(inspection: Inspection, units: str) -> bytes:
    """The mechanic's sheet, and labels for the plugs."""
    return printed(job_html(inspection, units))


def job_html(inspection: Inspection, units: str) -> str:
    """The same as a page."""
    return render_to_string("job.html", job_content(inspection, units))


def printed(page: str) -> bytes:
    """A page as a tagged PDF that needs nothing from elsewhere."""
    from weasyprint import HTML  # Slow to import, and only reports need it.
    from weasyprint.urls import FatalURLFetchingError, URLFetcher

    class OwnFiles(URLFetcher):  # type: ignore[misc]
        """Only the report's own fonts, and pictures that the page itself carries."""

        def fetch(self, url: str, headers: Any = None) -> Any:
            if not url.startswith("data:") and not _own_font(url):
                raise FatalURLFetchingError(f"nothing from elsewhere: {url[:60]}")
            return super().fetch(url, headers)

    made = HTML(string=page, base_url=FONTS.as_uri() + "/", url_fetcher=OwnFiles())
    written: bytes = made.write_pdf(pdf_variant="pdf/ua-1", pdf_tags=True)
    return written


def _own_font(url: str) -> bool:
    """Whether an address is a file among the report's fonts, wherever its dots lead."""
    parts = urlsplit(url)
    if parts.scheme != "file" or parts.netloc:
        return False
    return Path(unquote(parts.path)).resolve().is_relative_to(FONTS.resolve())
