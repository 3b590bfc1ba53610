"""Calculators for a shell and for screens: one JSON object in, one out.

Each calculator states the keys it takes; a wrong or unknown key is refused with its path. Keys are
optional unless marked, and what is left out has the model's documented default. What each says of
itself (formula, source, range) stands in knowledge/calculators.toml.
"""

from __future__ import annotations

from typing import Any

from core.calculators.bench import BENCH_CALCULATORS
from core.calculators.calculator import Answer, Calculator
from core.calculators.pressure import PRESSURE_CALCULATORS
from core.calculators.tuning import TUNING_CALCULATORS
from core.errors import CoreError, OutOfRange
from core.language import say

CALCULATORS: dict[str, Calculator[Any]] = {
    **BENCH_CALCULATORS,
    **TUNING_CALCULATORS,
    **PRESSURE_CALCULATORS,
}


def calculate(name: str, given: object) -> Answer:
    """Run one calculator.

    Parameters
    ----------
    name : str
        One of `CALCULATORS`.
    given : object
        Its keys; quantities as in the inspection document.

    Returns
    -------
    dict
        Its answer.

    Raises
    ------
    DocumentRefused, CoreError
        Naming the path of a wrong, missing or unknown key.
    """
    if name not in CALCULATORS:
        known = ", ".join(CALCULATORS)
        raise CoreError("unknown-calculator", "name", name, say("one of {known}", known=known))
    calculator = CALCULATORS[name]
    try:
        return calculator.answer(given)
    except OutOfRange as refused:
        refused.path = f"/{refused.path}"
        raise
