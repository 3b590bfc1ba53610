"""Predictions beside what was found: hits, misses, how often claims held, what misled.

Only cylinders whose outcome was recorded count. Where two parts were renewed together and one of
them was it ("one of these"), a first guess that names either is right, and the claim that is scored
is that one of them is at fault.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Any

import numpy as np

from core.assessment import Assessment, CylinderAssessment, Fault, GasketFault
from core.document.records import Document, OutcomeCylinder
from core.vocabulary import GapFault, words_of

EDGES = (0.0, 0.05, 0.2, 0.4, 0.6, 0.8, 1.0)
AMONG = 3
MISLED_BY_BITS = 0.5
GAPS = set(words_of(GapFault))


@dataclass(frozen=True)
class Scored:
    """One cylinder whose outcome is known.

    Attributes
    ----------
    cylinder : int
    guess : str
        The likeliest fault, or "" where the cylinder was graded sound.
    probability : float
        Of that fault. [-]
    found : tuple of str
        What it turned out to be; empty if nothing was wrong.
    hit : bool
        Whether the guess is among what was found, or both say that nothing is wrong.
    among_three : bool
        Whether one of the three likeliest faults is.
    inspector_hit : bool or None
        Whether the inspector's own first guess was right, told with an inspection's first
        cylinder; None elsewhere, and where none was made.
    claims : tuple of (float, bool)
        Each claim that was made of it, and whether it held; with an inspection's first cylinder
        those of the engine as a whole, where it was told what that had.
    misled : tuple of str
        What spoke for a guess that was wrong.
    """

    cylinder: int
    guess: str
    probability: float
    found: tuple[str, ...]
    hit: bool
    among_three: bool
    inspector_hit: bool | None
    claims: tuple[tuple[float, bool], ...]
    misled: tuple[str, ...]


def scored(checked: Mapping[str, Any], written: Mapping[str, Any]) -> list[Scored]:
    """The cylinders of one inspection whose outcome was recorded.

    Parameters
    ----------
    checked : mapping
        A checked document.
    written : mapping
        Its assessment, with reasons if `misled` is wanted.
    """
    document, assessment = Document.of(checked), Assessment.of(written)
    known = {
        one.cylinder: one
        for one in document.outcome.cylinders
        if one.found is not None or one.nothing is not None
    }
    told = [one for one in assessment.cylinders if one.number in known]
    guess = _inspector(document, known)
    found = [
        _scored(one, known[one.number], assessment.pairs, guess if at == 0 else None)
        for at, one in enumerate(told)
    ]
    of_all = tuple(_of_the_engine(document, assessment))
    return [replace(found[0], claims=found[0].claims + of_all), *found[1:]] if found else []


def _of_the_engine(document: Document, assessment: Assessment) -> Iterator[tuple[float, bool]]:
    """Claims of what all share, where somebody said what it turned out to be."""
    had = document.outcome.engine_faults
    for fault in assessment.engine.faults if had else ():
        yield fault.probability, fault.fault in had


def _inspector(document: Document, known: Mapping[int, OutcomeCylinder]) -> bool | None:
    """Whether the first guess named a faulty cylinder, and its fault if it named a fault."""
    guess = document.work.first_guess
    if not guess.cylinders:
        return None
    named = [known[number] for number in guess.cylinders if number in known and known[number].found]
    return bool(named) and (
        not guess.fault or any(guess.fault in (one.found or ()) for one in named)
    )


def _scored(
    one: CylinderAssessment,
    outcome: OutcomeCylinder,
    pairs: Sequence[GasketFault],
    inspector: bool | None,
) -> Scored:
    found = outcome.found or ()
    beside = [pair for pair in pairs if one.number in pair.cylinders]
    ranked: list[Fault | GasketFault] = sorted(
        [*one.faults, *beside], key=lambda fault: -fault.probability
    )
    sound = one.grade == "A"
    first = ranked[0]
    named = {fault.fault for fault in ranked[:AMONG]}
    right = (sound and not found) or (not sound and first.fault in found)
    misled = [
        because.finding
        for because in first.because
        if not right and not sound and because.weight >= MISLED_BY_BITS
    ]
    return Scored(
        one.number,
        "" if sound else first.fault,
        first.probability,
        found,
        right,
        right or bool(named & set(found)),
        inspector,
        tuple(_claims(ranked, found, one_of=outcome.one_of is True)),
        tuple(misled),
    )


def _claims(
    ranked: Iterable[Fault | GasketFault], found: tuple[str, ...], *, one_of: bool
) -> Iterator[tuple[float, bool]]:
    """Every fault as a claim; those of which one was it, as one claim together."""
    together = 0.0
    for fault in ranked:
        if fault.fault == "plug-worn" and set(found) & GAPS and "plug-worn" not in found:
            continue  # A gap that was off is told as wear: neither right nor wrong.
        if one_of and fault.fault in found:
            together += fault.probability
        else:
            yield fault.probability, fault.fault in found
    if one_of:
        yield min(together, 1.0), True


def track_record(cylinders: Sequence[Scored]) -> dict[str, Any]:
    """The record of a shop.

    Returns
    -------
    dict
        `cylinders`, `hits`, `among_three`; `brier` of all claims and of always saying the share
        that held; `calibration` by size of claim; how often the inspectors' own guesses were right;
        the findings that misled most.
    """
    claims = np.array([claim for one in cylinders for claim in one.claims]).reshape(-1, 2)
    guesses = [one.inspector_hit for one in cylinders if one.inspector_hit is not None]
    misled = Counter(finding for one in cylinders for finding in one.misled)
    return {
        "cylinders": len(cylinders),
        "hits": sum(one.hit for one in cylinders),
        "among_three": sum(one.among_three for one in cylinders),
        "inspector_guesses": len(guesses),
        "inspector_hits": sum(guesses),
        "brier": _brier(claims[:, 0], claims[:, 1]),
        "brier_of_base_rate": _brier(claims[:, 1].mean() if len(claims) else 0.0, claims[:, 1]),
        "calibration": list(_calibration(claims)),
        "misled": [{"finding": text, "times": times} for text, times in misled.most_common(5)],
    }


def _brier(said: Any, held: Any) -> float | None:
    """Mean squared difference of claim and truth; G. W. Brier, Monthly Weather Review 78 (1950)."""
    return round(float(np.mean((said - held) ** 2)), 4) if len(held) else None


def _calibration(claims: Any) -> Iterator[dict[str, Any]]:
    for low, high in pairwise(EDGES):
        inside = claims[(claims[:, 0] >= low) & ((claims[:, 0] < high) | (high == 1.0))]
        if len(inside):
            yield {
                "low": low,
                "high": high,
                "claims": len(inside),
                "claimed": round(float(inside[:, 0].mean()), 3),
                "held": round(float(inside[:, 1].mean()), 3),
            }
