"""Signing an inspection off: what was signed, by whom and when, under one digest.

The digest is the SHA-256 of the canonical JSON of everything but itself, so that anybody can check
a printed report against the file it was made from.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping
from typing import Any

from core.errors import CoreError
from core.language import say

FORMAT = "fiacre-signed"
VERSION = 1
FIELDS = ("format", "version", "document", "assessment", "signed", "digest")


def sealed(
    document: Mapping[str, Any], assessment: Mapping[str, Any], signed: Mapping[str, str]
) -> dict[str, Any]:
    """What is signed, with its digest.

    Parameters
    ----------
    document, assessment : mapping
        Of the inspection as it is signed.
    signed : mapping of str to str
        By whom, in which shop, when.
    """
    content = {
        "format": FORMAT,
        "version": VERSION,
        "document": document,
        "assessment": assessment,
        "signed": dict(signed),
    }
    return {**content, "digest": digest(content)}


def digest(content: Mapping[str, Any]) -> str:
    """The SHA-256 of signed content, hexadecimal; a digest in it is left out."""
    rest = {field: value for field, value in content.items() if field != "digest"}
    text = json.dumps(rest, sort_keys=True, ensure_ascii=False, separators=(",", ":"))
    return hashlib.sha256(text.encode()).hexdigest()


def verify(content: Any, printed: str | None = None) -> dict[str, Any]:
    """Check signed content against its own digest, and against a printed one if given.

    Returns
    -------
    dict
        `digest` as computed, and `matches`.

    Raises
    ------
    CoreError
        If this is no signed inspection at all.
    """
    if not isinstance(content, dict) or content.get("format") != FORMAT:
        found = content.get("format") if isinstance(content, dict) else content
        raise CoreError("format", "/format", found, repr(FORMAT))
    for field in FIELDS:
        if field not in content:
            raise CoreError("missing", f"/{field}", None, say("{field} is required", field=field))
    computed = digest(content)
    wanted = {content["digest"], *([printed.replace(" ", "").lower()] if printed else [])}
    return {"digest": computed, "matches": wanted == {computed}, "signed": content["signed"]}
