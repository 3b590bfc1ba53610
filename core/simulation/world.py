"""The simulator's own numbers, apart from the tables of the diagnosis."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib import resources
from typing import Any


@dataclass(frozen=True)
class World:
    """What the engines that are drawn have, and how people and gauges differ.

    Attributes
    ----------
    rates : by scope (cylinder, engine, bank, pair, coil), the share that has each fault. [-]
    areas : median leak of each fault that leaks and its spread (natural logarithm).
        [mm2 for each 500 cm3]
    scatter, leaks, shows, people, habits : as `world.toml` tells them.
    set : how plugs of one engine age together.
    complaints : of each, the chance that a fault brings it, and `else`. [-]
    """

    rates: Mapping[str, Mapping[str, float]]
    areas: Mapping[str, tuple[float, float]]
    scatter: Mapping[str, float]
    leaks: Mapping[str, float]
    set: Mapping[str, Any]
    shows: Mapping[str, float]
    people: Mapping[str, float]
    habits: Mapping[str, float]
    complaints: Mapping[str, Mapping[str, float]]


@cache
def world() -> World:
    """The one in `world.toml`."""
    return World(**tomllib.loads((resources.files(__package__) / "world.toml").read_text("utf-8")))
