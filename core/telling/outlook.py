"""What of one cylinder is still open: what nobody looked at, and what cannot be told apart."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from core.assessment import Fault, GasketFault
from core.document.records import CylinderRecord
from core.knowledge import knowledge
from core.language import listed, say


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


def rivals(
    faults: Sequence[Fault], pairs: Sequence[GasketFault], number: int, named: Collection[str]
) -> list[str]:
    """Faults of its claims that the evidence cannot yet tell apart: two or more of one claim.

    Parameters
    ----------
    faults, pairs
        Their chances.
    number : int
        Of the cylinder.
    named : collection of str
        Faults that its claims name.
    """
    known, least = knowledge(), knowledge().suspected_from
    found = [
        (one.probability, say(known.fault(one.fault, "cylinder").label))
        for one in faults
        if one.fault in named and least <= one.probability < 1 - least
    ]
    found += [
        (pair.probability, say("gasket between {pair}", pair=listed(pair.cylinders)))
        for pair in pairs
        if number in pair.cylinders and least <= pair.probability < 1 - least
    ]
    found.sort(reverse=True)
    return [label for _, label in found] if len(found) > 1 else []
