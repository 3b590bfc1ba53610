"""Which cylinders a job is about."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any


def cylinders_of_job(document: Mapping[str, Any]) -> frozenset[int]:
    """The cylinders that this job touches: those of its scope, all of them where it has none."""
    everyone = range(1, document["engine"]["cylinders"] + 1)
    return frozenset(document.get("inspection", {}).get("scope") or everyone)
