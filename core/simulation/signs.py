"""How probable each word is that people put down about a case.

People differ: a shade to the next, damp or wet, a crust or a powder. Every function gives a row of
chances for each draw of a case, so that a record can be drawn from them, or reckoned with.
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from scipy.special import ndtr

from core.simulation.cases import Case, Draws
from core.simulation.world import world

Chances = tuple[tuple[str, ...], Draws]  # The words, and a row for each draw: (n, words).
SHADES = ("white", "grey", "tan", "brown", "black")
SHADE_SPREAD, AMOUNT_SPREAD, WET_SPREAD, EYE, MISNAMED, NOT_TOLD = (
    world().people[name] for name in ("shade", "amount", "wet", "eye", "misnamed", "not_told")
)


def plug_signs(case: Case, light: float = 0.0) -> dict[str, Chances]:
    """What is written about a plug and its well, field by field; `light` darkens every shade."""
    shade = _colour(case, light)
    wetness = _wetness(case)
    return {
        "deposit_colour": shade,
        "deposit_texture": _texture(case),
        "deposit_amount": _amount(case),
        "wetness": wetness,
        "insulator": _insulator(case),
        "centre_electrode": _row(
            case,
            ("square", "rounded", "eroded"),
            (0.14, 0.7, 0.16) if "plug-worn" in case.faults else (0.937, 0.06, 0.003),
        ),
        "ground_electrode": _row(
            case,
            ("square", "rounded", "thinned"),
            (0.25, 0.55, 0.2) if "plug-worn" in case.faults else (0.946, 0.05, 0.004),
        ),
        "gap_bridged": _seen(case, "plug-gap-bridged", "yes", "no", 0.9, 0.0003),
        "seating": _row(
            case,
            ("loose", "snug", "tight"),
            (0.7, 0.25, 0.05) if "plug-loose" in case.faults else (0.01, 0.12, 0.87),
        ),
        "type_match": _seen(
            case, "plug-wrong-type", "wrong-heat-range", "as-specified", 0.95, 0.002
        ),
        "oil": _row(
            case,
            ("none", "trace", "pooled"),
            (0.02, 0.34, 0.64) if "well-seal" in case.faults else (0.957, 0.04, 0.003),
        ),
    }


def wet_with(case: Case) -> Chances:
    """What a wet plug is said to be wet with."""
    words = ("fuel", "oil", "coolant", "water", "unknown")
    amounts = np.stack([case.fuel, case.oil, case.steam, case.rust * 0.6], axis=1)
    named = np.argmax(amounts, axis=1)
    rows = np.zeros((len(named), len(words)))
    rows[:, -1] = NOT_TOLD
    told = (1 - NOT_TOLD) * (1 - MISNAMED)
    rows[np.arange(len(named)), named] += told
    rows[:, 0] += (1 - NOT_TOLD) * MISNAMED * (named != 0)
    rows[:, 1] += (1 - NOT_TOLD) * MISNAMED * (named == 0)
    return words, rows


def felt(missing: bool) -> Mapping[str, float]:
    """What is felt when a cylinder is cut out."""
    if missing:
        return {"none": 0.7, "slight": 0.25, "clear": 0.05}
    return {"none": 0.015, "slight": 0.1, "clear": 0.885}


def spark(case: Case) -> Chances:
    """What a tester shows of the spark."""
    weak = "ignition-weak" in case.faults
    return _row(case, ("strong", "weak", "none"), (0.15, 0.45, 0.4) if weak else (0.95, 0.04, 0.01))


def borescope(case: Case, *, valves: bool = True) -> dict[str, Chances]:
    """What is seen through the plug hole; a two-stroke has no valves to look at."""
    rings = case.rings
    worn = np.clip(rings / 4, 0, 0.9)[:, None]
    damaged = 0.85 if "piston-damage" in case.faults else 0.0
    bore = (1 - worn) * np.array([0.78, 0.2, 0.003]) + worn * np.array([0.1, 0.4, 0.5])
    bore = (1 - damaged) * bore + damaged * np.array([0.1, 0.1, 0.8])
    burnt = np.clip(case.leaks.get("exhaust-valve-sealing", np.zeros_like(rings)) / 5, 0, 0.85)
    oily = 0.6 if "valve-stem-oil" in case.faults else 0.03
    edges = np.stack([(1 - burnt) * (1 - oily), burnt, (1 - burnt) * oily], axis=1)
    found: dict[str, Chances] = {
        "bore": (("cross-hatched", "polished", "scored"), bore / bore.sum(axis=1, keepdims=True))
    }
    if valves:
        found["valves"] = (("even", "burnt-edge", "oily-stems"), edges)
    return found


def _row(case: Case, words: tuple[str, ...], chances: tuple[float, ...]) -> Chances:
    return words, np.tile(chances, (len(case.soot), 1))


def _seen(
    case: Case, fault: str, word: str, otherwise: str, present: float, absent: float
) -> Chances:
    chance = present if fault in case.faults else absent
    return _row(case, (word, otherwise), (chance, 1 - chance))


def _steps(value: Draws, edges: tuple[float, ...], spread: float) -> Draws:
    """Chance of each interval between edges for a value that is misjudged a little."""
    below = ndtr((np.array(edges)[None, :] - value[:, None]) / spread)
    ends = np.zeros((len(value), 1)), np.ones((len(value), 1))
    return np.diff(np.concatenate([ends[0], below, ends[1]], axis=1), axis=1)


def _colour(case: Case, light: float) -> Chances:
    darkness = 2.2 + light + 2.6 * case.soot + 1.6 * np.maximum(case.oil - 0.3, 0)
    darkness = darkness - 2.2 * case.heat - 1.5 * case.steam - 0.8 * case.ash
    shades = _steps(darkness, (0.5, 1.5, 2.5, 3.5), SHADE_SPREAD)
    odd = np.stack([0.3 * (case.steam > 0.5), 0.6 * (case.rust > 0.4)], axis=1)
    odd = np.clip(odd, 0, 1)
    rows = np.concatenate([shades * (1 - odd.sum(axis=1, keepdims=True)).clip(0.05), odd], axis=1)
    return (*SHADES, "green", "red"), rows / rows.sum(axis=1, keepdims=True)


def _texture(case: Case) -> Chances:
    words = ("clean", "powder", "crust", "flake", "glaze", "blistered")
    looks = (
        (ndtr((case.steam - 0.5) / EYE), (0.9, 0.0, 0.1, 0.0, 0.0, 0.0)),
        (ndtr((case.heat - 0.55) / EYE), (0.2, 0.0, 0.0, 0.0, 0.45, 0.35)),
        (ndtr((np.maximum(case.ash, case.rust) - 0.4) / EYE), (0.02, 0.08, 0.72, 0.18, 0.0, 0.0)),
        (ndtr((case.oil - 0.4) / EYE), (0.2, 0.15, 0.5, 0.1, 0.05, 0.0)),
        (ndtr((case.soot - 0.3) / EYE), (0.02, 0.88, 0.05, 0.05, 0.0, 0.0)),
        (np.ones_like(case.soot), (0.55, 0.45, 0.0, 0.0, 0.0, 0.0)),
    )
    rows, left = np.zeros((len(case.soot), len(words))), np.ones_like(case.soot)
    for chance, row in looks:
        rows += (left * chance)[:, None] * np.array(row)
        left = left * (1 - chance)
    return words, 0.98 * rows + 0.02 / len(words)


def _amount(case: Case) -> Chances:
    thickness = case.soot + case.oil + case.ash + 0.5 * case.rust - case.steam
    return ("none", "light", "moderate", "heavy"), _steps(thickness, (0.1, 0.5, 1.0), AMOUNT_SPREAD)


def _wetness(case: Case) -> Chances:
    wet = np.maximum(case.oil, case.fuel) + np.where(case.steam > 0.6, 0.3, 0.0)
    wet = wet + 0.4 * case.rust
    return ("dry", "damp", "wet"), _steps(wet, (0.45, 0.75), WET_SPREAD)


def _insulator(case: Case) -> Chances:
    words = ("sound", "cracked-nose", "cracked-body", "chipped", "blistered")
    blistered = 0.6 * ndtr((case.heat - 0.9) / EYE)
    if "plug-insulator-cracked" in case.faults:
        return _row(case, words, (0.04, 0.34, 0.31, 0.3, 0.01))
    zero = np.full_like(blistered, 0.0002)
    return words, np.stack([1 - blistered - 3 * zero, zero, zero, zero, blistered], axis=1)
