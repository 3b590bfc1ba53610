"""What of one cylinder is still open: what nobody looked at, and what cannot be told apart."""

from __future__ import annotations

from collections.abc import Sequence

from core.assessment import Fault, GasketFault
from core.document.records import CylinderRecord
from core.knowledge import knowledge
from core.language import listed, say

RIVAL_FROM = 0.15


def unseen(record: CylinderRecord, kinds: set[str]) -> list[str]:
    """What was not looked at on one cylinder, in words.

    Parameters
    ----------
    record : CylinderRecord
    kinds : set of str
        Kinds of pressure reading it has.
    """
    missing = [] if record.plug.recorded else [say("the plug was not read")]
    if not record.well.recorded:
        missing.append(say("the well was not looked into"))
    if "dry" not in kinds:
        missing.append(say("no compression reading"))
    return missing


def rivals(faults: Sequence[Fault], pairs: Sequence[GasketFault], number: int) -> list[str]:
    """Faults that the evidence cannot yet tell apart: two or more that are each quite possible.

    A fault as probable as before anything was looked at is nobody's rival.
    """
    known = knowledge()
    named = [
        (one.probability, say(known.fault(one.fault, "cylinder").label))
        for one in faults
        if one.probability >= RIVAL_FROM
        and one.probability > 2 * known.fault(one.fault, "cylinder").prior
    ]
    named += [
        (pair.probability, say("gasket between {pair}", pair=listed(pair.cylinders)))
        for pair in pairs
        if number in pair.cylinders and pair.probability >= RIVAL_FROM
    ]
    named.sort(reverse=True)
    return [label for _, label in named] if len(named) > 1 else []
