"""The acceptance schools of a leak-down test. All are run; the house's decides.

`loss-25` is the default: the only one with a published source. Percent lost depends on the tester's
restrictor, so a school that was made for another tester judges another leak; the model's leak area
does not.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from core.comparison.schools import Verdict
from core.document.readings import held_of
from core.document.records import Document
from core.evidence.leakdowns import disagrees
from core.knowledge import knowledge
from core.language import say

DEFAULT = "loss-25"


def lost_percent(document: Document, doubted: frozenset[str] = frozenset()) -> dict[int, float]:
    """What each cylinder lost in the last test that read it, but for what is set aside. [%]"""
    lost = {}
    for test in document.tests.leakdown:
        for item in test.readings:
            both = held_of(test, item)
            path = f"/tests/leakdown/{test.id}/readings/{item.cylinder}/held"
            if both and both[0] > 0 and path not in doubted and not disagrees(test, item):
                lost[item.cylinder] = max(100 * (1 - both[1] / both[0]), 0.0)
    return lost


def leakdown_verdicts(lost: Mapping[int, float]) -> list[Verdict]:
    """Run every school on the readings, the default first.

    Parameters
    ----------
    lost : mapping of cylinder to share lost
        [%]
    """
    return [_judged(school, lost) for school in knowledge().pressure["leakdown_school"]]


def _judged(school: Mapping[str, Any], lost: Mapping[int, float]) -> Verdict:
    rule, label = school["id"], say(school["label"])
    if len(lost) < (2 if "spread" in school else 1):
        return Verdict(rule, label, "cannot-say", (), say("needs more readings"))
    limit = school["most"] if "most" in school else min(lost.values()) + school["spread"]
    failing = tuple(sorted(number for number, share in lost.items() if share > limit))
    detail = say(
        "{least:.0f} to {most:.0f} % lost; the limit is {limit:.0f} %",
        least=min(lost.values()),
        most=max(lost.values()),
        limit=limit,
    )
    return Verdict(rule, label, "fail" if failing else "pass", failing, detail)
