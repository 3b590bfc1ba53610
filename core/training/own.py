"""Cases of a shop's own: engines that it had, nameless, once it is known what was wrong."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from copy import deepcopy
from typing import Any

from core.document.records import Document
from core.errors import CoreError
from core.knowledge import knowledge
from core.language import say
from core.simulation import Truth
from core.simulation.engines import CylinderTruth
from core.training.cases import Case, Json, grave

OWN = "own"  # Not drawn: an engine that a shop had, and what it turned out to be.
# What an engine of a shop is practised on with: nothing that tells whose it is.
OF_THE_ENGINE = (
    "cycle", "layout", "cylinders", "firing_order", "banks", "fuel_system", "ignition", "cooling",
    "aspiration", "compression_ratio", "bore", "stroke", "rod", "feeds", "trigger", "decompressor",
    "specification",
)  # fmt: skip
OF_THE_JOB = ("complaints", "trouble_codes", "complaint_when", "complaint_how_often")
# By kind of test, what of it; all of it where nothing is named.
OF_TESTS: Mapping[str, tuple[str, ...]] = {
    "compression": ("id", "kind", "engine_temperature", "throttle", "plugs_out", "cranking_rpm",
                    "puffs", "readings"),
    "leakdown": ("id", "supply", "restrictor", "engine_temperature", "readings"),
    "balance": (),
    "spark": (),
}  # fmt: skip
FREE_TEXT = {"part", "plug_part", "instrument", "gauge", "note"}
OF_A_CYLINDER = ("plug", "well", "borescope")


def nameless(document: Json) -> Json:
    """What can be practised on of an inspection: what was read, and not whose or when.

    Parameters
    ----------
    document : dict
        A checked document with an outcome.

    Returns
    -------
    dict
        A document of its own, the outcome with it.
    """
    tests, outcome = document.get("tests", {}), document.get("outcome", {})
    made: Json = {
        "format": document["format"],
        "version": document["version"],
        "engine": _only(document["engine"], OF_THE_ENGINE),
        "inspection": _only(document.get("inspection", {}), OF_THE_JOB),
        "cylinders": [
            {"number": one["number"], **_only(one, OF_A_CYLINDER)}
            for one in document.get("cylinders", [])
        ],
        "tests": {
            name: [_only(one, own) if own else one for one in tests.get(name, [])]
            for name, own in OF_TESTS.items()
        },
        "outcome": {
            "engine_faults": outcome.get("engine_faults", []),
            "cylinders": [
                _only(one, ("cylinder", "found", "nothing")) for one in outcome.get("cylinders", [])
            ],
        },
    }
    made["engine"]["title"] = "An engine that came in"
    cleared: Json = _without_words(made)
    return cleared


def own_case(document: Json, seed: int) -> Case:
    """The case that an inspection makes, once it is known what every cylinder had.

    Parameters
    ----------
    document : dict
        As `nameless` leaves it.
    seed : int
        Its number in the shop.

    Raises
    ------
    CoreError
        If the outcome leaves a cylinder open, or nothing is wrong that wants more than a plug.
    """
    settled = Document.of(document).outcome.settled
    every = range(1, document["engine"]["cylinders"] + 1)
    if missing := [number for number in every if number not in settled]:
        raise CoreError("outcome", "/outcome/cylinders", missing, say("what every cylinder had"))
    faults = set(knowledge().cylinder_faults(lambda _: True))
    found = {n: CylinderTruth(set(settled[n]) & faults) for n in every}
    shared = set(document["outcome"]["engine_faults"])
    truth = Truth(document["engine"], found, shared, {}, (), (), {}, {})
    if not grave(truth):
        raise CoreError("outcome", "/outcome/cylinders", None, say("a fault that is worth finding"))
    begun = {name: deepcopy(document[name]) for name in ("format", "version", "engine")}
    begun |= {"inspection": deepcopy(document["inspection"]), "tests": {}}
    return Case(OWN, seed, truth, document, document, begun)


def _without_words(given: Any) -> Any:
    """A copy without what somebody wrote in words of their own."""
    if isinstance(given, dict):
        kept = given.items()
        return {name: _without_words(one) for name, one in kept if name not in FREE_TEXT}
    if isinstance(given, list):
        return [_without_words(one) for one in given]
    return given


def _only(given: Json, names: Collection[str]) -> Json:
    return {name: given[name] for name in names if name in given}
