"""What follows from an inspection's document, kept beside it for reading."""

from __future__ import annotations

from datetime import date
from typing import Any

from server.inspections.finding import suspected, words
from server.inspections.models import Inspection
from server.weigher import assess

# Large, and made anew with every entry: not worth reading before.
DERIVED = ("assessment", "words", "verdict", "suspected", "engine__data", "engine__words")


def follow(inspection: Inspection, document: dict[str, Any]) -> None:
    """What follows from a canonical document at once, and is kept with the entry."""
    inspection.document = document
    inspection.words = words(inspection)
    inspection.has_outcome = "outcome" in inspection.document
    inspection.date = _day(document.get("inspection", {}).get("date"))
    proof = document.get("proof", {})
    inspection.follow_up = None if proof.get("followed_up") else _day(proof.get("follow_up"))


def weigh(inspection: Inspection) -> None:
    """What is told of the document as it stands, by today's rules.

    Reasons and next tests follow once recording pauses (services.reasons).
    """
    inspection.weighed = inspection.sequence
    inspection.assessment = assess(inspection.document, explain=False, advise=False)
    inspection.suspected = suspected(inspection.assessment)
    engine = inspection.assessment["engine"]
    left = engine.get("as_left")
    inspection.rules = inspection.assessment["rules_version"]
    inspection.grade, inspection.grade_left = engine["grade"], left["grade"] if left else ""
    inspection.verdict = f"{left['done']} {left['verdict']}" if left else engine["verdict"]


def _day(text: str | None) -> date | None:
    return date.fromisoformat(text) if text else None
