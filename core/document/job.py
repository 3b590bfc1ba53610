"""Which cylinders a job is about."""

from __future__ import annotations

from core.document.records import Document


def cylinders_of_job(document: Document) -> frozenset[int]:
    """The cylinders that this job touches: those of its scope, all of them where it has none."""
    everyone = range(1, document.engine.cylinders + 1)
    return frozenset(document.inspection.scope or everyone)


def still_to_torque(document: Document) -> list[int]:
    """Cylinders of this job whose plug is not both fitted and torqued, in order."""
    done = {one.cylinder for one in document.refit.cylinders if one.fitted and one.torqued}
    return sorted(cylinders_of_job(document) - done)
