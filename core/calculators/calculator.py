"""What a calculator is: the keys it takes and what it does with them."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from core.document.shapes import Schema
from core.quantities import Dimension, from_si

Answer = dict[str, Any]


@dataclass(frozen=True)
class Calculator:
    """One calculator: its keys as a schema, and what it does with them."""

    keys: Schema
    compute: Callable[[Mapping[str, Any]], Answer]


def rounded(value: float, digits: int = 6) -> float:
    """To so many significant figures, so that an answer shows no noise."""
    return float(f"{value:.{digits}g}")


def shown(si: float, unit: str, dimension: Dimension, digits: int = 6) -> Answer:
    """A quantity of an answer, from SI."""
    return {"value": rounded(from_si(si, unit, dimension).value, digits), "unit": unit}
