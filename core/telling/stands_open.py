"""What is asked before a record is signed: slips nobody answered, parts off, steps not closed."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import chain

from core.assessment import Warning as Told
from core.document.records import Document
from core.judgement.proof import half_done, still_off

# Warnings that are a question: what is written is perhaps not what was meant.
ASKS = frozenset(
    ("unit-slip", "implausible", "inconsistent", "contradiction", "surprise", "numbering", "mix")
)


def stands_open(document: Document, warnings: Sequence[Told]) -> list[str]:
    """Sentences that stand open at the hand-over, the questions about figures first.

    Parameters
    ----------
    document : Document
    warnings : sequence of Warning
        Those of its assessment.
    """
    asked = (one.text for one in warnings if one.code in ASKS)
    off = still_off(document)
    told = chain(asked, half_done(document), [off] if off else [])
    return list(dict.fromkeys(told))
