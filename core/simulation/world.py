"""The simulator's own numbers, apart from the tables of the diagnosis."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib import resources


@dataclass(frozen=True)
class World:
    """What the engines that are drawn have, and how people and gauges differ.

    Attributes
    ----------
    rates : by scope (cylinder, engine, bank, pair, coil), the share that has each fault. [-]
    areas : median leak of each fault that leaks and its spread (natural logarithm).
        [mm2 for each 500 cm3]
    scatter, people, habits : as `world.toml` tells them.
    """

    rates: Mapping[str, Mapping[str, float]]
    areas: Mapping[str, tuple[float, float]]
    scatter: Mapping[str, float]
    people: Mapping[str, float]
    habits: Mapping[str, float]


@cache
def world() -> World:
    """The one in `world.toml`."""
    return World(**tomllib.loads((resources.files(__package__) / "world.toml").read_text("utf-8")))
