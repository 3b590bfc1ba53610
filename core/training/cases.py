"""Cases to practise on: an engine of the simulator with hidden faults, by kind and seed."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from copy import deepcopy
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np

from core.errors import CoreError
from core.knowledge import knowledge
from core.language import say
from core.quantities import Dimension, Quantity
from core.simulation import Truth, draw_truth, record
from core.simulation.recording import Style

EVERYTHING = Style(
    plugs=True, dry=True, wet=True, leakdown=True, balance=True, codes=True, spark=True,
    borescope=True,
)  # fmt: skip
MOST_DRAWS = 20_000
FEWEST, MOST = 3, 8  # Cylinders: enough to be each other's standard, few enough to go through.
LEAKS = {"ring-sealing", "intake-valve-sealing", "exhaust-valve-sealing", "piston-damage"}
PLAIN = LEAKS | {"ignition-weak", "head-gasket-coolant"}  # Faults that show on the first day.
PASSING = {"ignition-weak", "plug-insulator-cracked"}
Json = dict[str, Any]


@dataclass(frozen=True, eq=False)
class Case:
    """One engine to find the fault of.

    Attributes
    ----------
    kind, seed : str, int
        Name it: the same kind and seed are the same engine everywhere.
    truth : Truth
        What nobody sees before the end.
    whole : dict
        The document in which every instrument has answered.
    straight : dict
        The same without a trap: every figure in the unit in which it was read.
    begun : dict
        What is known at the beginning: the engine, its codes, what it is complained of.
    """

    kind: str
    seed: int
    truth: Truth
    whole: Json
    straight: Json
    begun: Json


def is_grave(fault: str) -> bool:
    """Whether a cylinder's fault wants more than a plug or a seal, or stops it."""
    known = knowledge().fault(fault, "cylinder")
    return known.cuts_out or known.consequence not in ("plug-service", "external-seal")


def grave(truth: Truth) -> dict[int, set[str]]:
    """Cylinders with a fault that wants more than a plug, and which faults those are."""
    found = {}
    for number, one in truth.cylinders.items():
        own = {fault for fault in one.faults if is_grave(fault)}
        if own:
            found[number] = own
    return found


def _quiet(truth: Truth) -> bool:
    """Whether nothing shared is wrong."""
    return not (truth.engine_faults or truth.bank_faults or truth.gaskets or truth.coil)


def _school_day(truth: Truth) -> bool:
    faults = list(grave(truth).values())
    return _quiet(truth) and len(faults) == 1 and len(faults[0]) == 1 and faults[0] <= PLAIN


def _two_faults(truth: Truth) -> bool:
    faults = list(grave(truth).values())
    return _quiet(truth) and len(faults) == 2 and not faults[0] & faults[1]


def _misleading_oil(truth: Truth) -> bool:
    """Oil in the well of one, and the fault on another."""
    oily = {n for n, one in truth.cylinders.items() if "well-seal" in one.faults}
    faults = grave(truth)
    return _quiet(truth) and len(faults) == 1 and bool(oily) and not oily & faults.keys()


def _test_run_wrong(truth: Truth) -> bool:
    faults = list(grave(truth).values())
    leaking = len(faults) == 1 and bool(faults[0] & LEAKS)
    rest = not (truth.bank_faults or truth.gaskets or truth.coil)
    return truth.engine_faults == {"test-condition"} and leaking and rest


def _passing(truth: Truth) -> bool:
    faults = list(grave(truth).values())
    return _quiet(truth) and len(faults) == 1 and bool(faults[0] & PASSING)


def _fine_today(truth: Truth, whole: Json) -> None:
    """A code names it, and today it pulls like the others."""
    (number,) = grave(truth)
    codes = whole["inspection"]["trouble_codes"]
    whole["inspection"]["trouble_codes"] = sorted({*codes, f"P03{number:02d}"})
    for one in whole["tests"]["balance"]:
        if one["cylinder"] == number:
            one["felt"] = "clear"


def _one_leaks(truth: Truth) -> bool:
    faults = list(grave(truth).values())
    return _quiet(truth) and len(faults) == 1 and bool(faults[0] & LEAKS)


def _read_in_bar(truth: Truth, whole: Json) -> None:
    """One sound cylinder's figure was read in bar and written down as psi."""
    number = min(truth.cylinders.keys() - grave(truth).keys())
    for test in whole["tests"]["compression"]:
        for one in test["readings"]:
            if one["cylinder"] == number and one["pressure"]["unit"] == "psi":
                read = Quantity(one["pressure"]["value"], "psi", Dimension.PRESSURE)
                one["pressure"]["value"] = round(read.to("bar").value, 1)


# Of which engines, by kind.
KINDS: Mapping[str, Callable[[Truth], bool]] = {
    "school-day": _school_day,
    "two-faults": _two_faults,
    "misleading-oil": _misleading_oil,
    "test-run-wrong": _test_run_wrong,
    "comes-and-goes": _passing,
    "slip-of-units": _one_leaks,
}
# What is done to some kinds, and where a trap is laid in what the instruments show.
TOUCHES: Mapping[str, Callable[[Truth, Json], None]] = {"comes-and-goes": _fine_today}
TRAPS: Mapping[str, Callable[[Truth, Json], None]] = {"slip-of-units": _read_in_bar}


@lru_cache(maxsize=64)
def case_of(kind: str, seed: int) -> Case:
    """The case of a kind and a seed.

    Raises
    ------
    CoreError
        If there is no such kind.
    """
    if kind not in KINDS:
        raise CoreError("kind", "kind", kind, say("one of {known}", known=", ".join(KINDS)))
    for draw in range(MOST_DRAWS):
        random = np.random.default_rng([seed, draw])
        truth = draw_truth(random)
        if not FEWEST <= truth.engine["cylinders"] <= MOST or not KINDS[kind](truth):
            continue
        whole = record(truth, random, EVERYTHING)
        if kind in TOUCHES:
            TOUCHES[kind](truth, whole)
        straight = deepcopy(whole)
        if kind in TRAPS:
            TRAPS[kind](truth, whole)
        return Case(kind, seed, truth, whole, straight, _begun(whole))
    raise CoreError("seed", "seed", seed, say("a seed that draws such an engine"))


def _begun(whole: Json) -> Json:
    """The engine comes in: what it is, its codes, and how it runs."""
    begun = {name: deepcopy(whole[name]) for name in ("format", "version", "engine")}
    begun["engine"]["title"] = "An engine to practise on"
    misses = any(one["felt"] != "clear" for one in whole["tests"]["balance"])
    job: Json = {"complaints": ["misfire"] if misses else ["rough-idle"]}
    if whole["inspection"]["trouble_codes"]:
        job["trouble_codes"] = list(whole["inspection"]["trouble_codes"])
    begun["inspection"] = job
    begun["tests"] = {}
    return begun
