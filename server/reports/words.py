"""Words of the contract and quantities, as a report says them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from core import quantities
from core.language import word_said as words

__all__ = ["spoken", "words"]


def spoken(raw: Mapping[str, Any]) -> str:
    """A quantity as it was read, to four figures."""
    return quantities.spoken(quantities.Figure(raw["value"], raw["unit"]), 4)
