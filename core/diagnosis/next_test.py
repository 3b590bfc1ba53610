"""The next best test: what it would tell about the consequences, for each minute it takes.

For every test still open on a cylinder, the model says how probable each outcome is under every
fault set; the information that the outcome carries about the consequence class is worth the
trouble or not. Nothing is recommended when nothing would change much.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from core.assessment import NextTest, Tell
from core.diagnosis.belief import work_out
from core.diagnosis.evidence import coded_cylinders
from core.diagnosis.model import Model
from core.diagnosis.open_tests import SPOILT, OpenTests, terms
from core.judgement.acts import way_in
from core.judgement.running import loose_pieces
from core.knowledge import knowledge

LEAST_BITS = 0.05
MOST_LISTED = 8
AT_REST = ("plug", "well", "seating", "firing-order", "port-look", "injector")
ALIKE = 0.8  # Cylinders of which a test tells nearly the same are named in their own order.
RENEW = "renew-plugs"
FIRING_ORDER_BITS = 0.2  # About one chance in thirty that leads are crossed.


@dataclass(frozen=True)
class Candidate:
    """One test on one cylinder with what it would tell."""

    cylinder: int
    bits: float


def next_tests(model: Model) -> list[NextTest]:
    """Tests worth doing, the most told in a minute first.

    What is due is renewed before any gauge is taken up, unless the engine will be opened anyway.
    Cylinders that a code names come first, and are always in.

    Returns
    -------
    list of NextTest
    """
    ranked: dict[str, list[Candidate]] = {}
    loose = list(loose_pieces(model.document))
    work_out(model.solution.beliefs, "sets")
    tests = [OpenTests(model, cylinder) for cylinder in model.arranged.cylinders]
    opened = max(one.opened() for one in tests) >= SPOILT
    for one in tests:
        cylinder = one.cylinder
        for test, bits in one.bits().items():
            worth = not opened if test == RENEW else bits >= LEAST_BITS
            if worth and not (loose and test not in AT_REST):
                ranked.setdefault(test, []).append(Candidate(cylinder, bits))
    crossed = _firing_order(model)
    if crossed:
        ranked["firing-order"] = crossed
    listed = [_listed(model, test, candidates) for test, candidates in ranked.items()]
    listed.sort(key=lambda one: (one.test != RENEW, -one.bits / one.minutes, one.test))
    return [*_find_pieces(model, loose), *listed][:MOST_LISTED]


def _find_pieces(model: Model, loose: list[int]) -> list[NextTest]:
    """Looking for the piece goes before everything; it is worth a whole bit: there or not."""
    if not loose:
        return []
    numbers = " and ".join(str(number) for number in loose)
    reason = f"on {numbers}: find the missing piece before the engine is turned"
    return [_told(model, "borescope", loose, float(len(loose)), reason)]


def _firing_order(model: Model) -> list[Candidate]:
    """Following the leads settles whether two are crossed; the likeliest pair is named."""
    pairs = [
        (float(chance), one[0].cylinders)
        for chance, one in zip(model.solution.situation, model.situations.members, strict=True)
        if len(one) == 1 and one[0].fault == "leads-crossed"
    ]
    total = sum(chance for chance, _ in pairs)
    joint = np.array([[total, 0.0], [0.0, 1 - total]])
    bits = float(terms(joint).sum())
    if bits < FIRING_ORDER_BITS:
        return []
    return [Candidate(cylinder, bits / 2) for cylinder in max(pairs)[1]]


def _listed(model: Model, test: str, candidates: list[Candidate]) -> NextTest:
    """One test on the cylinders that it would tell most about."""
    most = max(one.bits for one in candidates)
    asked = coded_cylinders(model.document)
    least = 0.0 if test == RENEW else 0.5 * most
    best = [one for one in candidates if one.bits >= least or one.cylinder in asked]
    alike = min(one.bits for one in best) >= ALIKE * most
    best.sort(
        key=lambda one: (one.cylinder not in asked, 0.0 if alike else -one.bits, one.cylinder)
    )
    cylinders = [one.cylinder for one in best]
    bits = sum(one.bits for one in best)
    return _told(model, test, cylinders, bits, _reason(model, test, cylinders))


def _told(model: Model, test: str, cylinders: list[int], bits: float, reason: str) -> NextTest:
    document, table = model.document, knowledge().tests[test]
    each = document.house_rules.minutes.get(test, table["each"])
    access = way_in(test, cylinders, document, model.arranged)
    return NextTest(
        test,
        tuple(cylinders),
        round(bits, 3),
        float(table["setup"] + each * len(cylinders) + access),
        reason,
        access_minutes=access,
        tells=tuple(Tell(*one) for one in table["results"]),
    )


def _reason(model: Model, test: str, cylinders: list[int]) -> str:
    told = knowledge().tests[test]["tells"]
    if test == "compression" and model.readings:
        told = "again, and by the book: warm, throttle open, battery full"
    count = len(model.arranged.cylinders)
    if len(cylinders) == count > 1:
        return f"on all of them: {told}"
    numbers = " and ".join(str(number) for number in cylinders[:2])
    more = f" and {len(cylinders) - 2} more" if len(cylinders) > 2 else ""
    return f"on {numbers}{more}: {told}"
