"""A two-stroke's oil in its fuel. A ratio of 32 is 32 parts of fuel to one of oil, by volume."""

from __future__ import annotations

from dataclasses import dataclass

from core.errors import OutOfRange
from core.language import say

LEAST_RATIO, MOST_RATIO = 5.0, 500.0


def _sane(name: str, ratio: float) -> None:
    if not LEAST_RATIO <= ratio <= MOST_RATIO:
        raise OutOfRange(
            name,
            ratio,
            say(
                "a ratio from {least:g} to {most:g}",
                least=LEAST_RATIO,
                most=MOST_RATIO,
            ),
        )


def oil_m3(ratio: float, fuel_m3: float) -> float:
    """Oil to pour into so much fresh fuel.

    Parameters
    ----------
    ratio : float
        Fuel to oil. [-]
    fuel_m3 : float
        Fuel without oil. [m3]

    Returns
    -------
    float
        [m3]
    """
    _sane("ratio", ratio)
    return fuel_m3 / ratio


@dataclass(frozen=True)
class TopUp:
    """What to pour in: `oil_m3` with the fuel; `ratio` is what the tank holds then."""

    oil_m3: float
    ratio: float
    too_rich: bool


def top_up(wanted: float, in_tank: float, held_m3: float, fuel_m3: float) -> TopUp:
    """Bring a tank that holds one ratio to another with so much fresh fuel.

    Parameters
    ----------
    wanted, in_tank : float
        Ratios, fuel to oil. [-]
    held_m3 : float
        The mix that is in the tank. [m3]
    fuel_m3 : float
        Fresh fuel to be poured in. [m3]

    Returns
    -------
    TopUp
        `too_rich` where even fuel without oil leaves more oil than wanted; no oil is added then.
    """
    _sane("ratio", wanted)
    _sane("ratio_in_tank", in_tank)
    if held_m3 < 0 or fuel_m3 < 0 or held_m3 + fuel_m3 == 0:
        raise OutOfRange("fuel", fuel_m3, say("something in the tank or to be poured in"))
    oil_held = held_m3 / (in_tank + 1)
    fuel = held_m3 - oil_held + fuel_m3
    missing = fuel / wanted - oil_held
    added = max(missing, 0.0)
    return TopUp(added, fuel / (oil_held + added), missing < 0)
