"""What follows from an inspection's document, kept beside it for reading."""

from __future__ import annotations

from datetime import date
from typing import Any

from core.telling import assess
from server.inspections.finding import suspected, words
from server.inspections.models import Inspection

# Large, and made anew with every entry: not worth reading before.
DERIVED = ("assessment", "words", "verdict", "engine__data", "engine__words")


def derive(inspection: Inspection, document: dict[str, Any]) -> None:
    """Everything that follows from a canonical document and that an entry waits for.

    Reasons and next tests follow once recording pauses (services.reasons).
    """
    inspection.document = document
    if not (inspection.sequence and inspection.signed_off):
        _weigh(inspection)
    inspection.words = words(inspection)
    inspection.suspected = suspected(inspection.assessment)
    inspection.has_outcome = "outcome" in inspection.document
    inspection.date = _day(document.get("inspection", {}).get("date"))
    proof = document.get("proof", {})
    inspection.follow_up = None if proof.get("followed_up") else _day(proof.get("follow_up"))


def _weigh(inspection: Inspection) -> None:
    """By today's rules; what is signed keeps its own."""
    inspection.assessment = assess(inspection.document, explain=False, advise=False)
    engine = inspection.assessment["engine"]
    left = engine.get("as_left")
    inspection.rules = inspection.assessment["rules_version"]
    inspection.grade, inspection.grade_left = engine["grade"], left["grade"] if left else ""
    inspection.verdict = f"{left['done']} {left['verdict']}" if left else engine["verdict"]


def _day(text: str | None) -> date | None:
    return date.fromisoformat(text) if text else None
