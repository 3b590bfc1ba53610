"""What a calculator is: the keys it takes and what it does with them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Generic, TypeVar

import msgspec

from core.document.reading import check_part
from core.document.records import Record
from core.document.schema import schema_of
from core.document.shapes import Schema
from core.quantities import Dimension, Figure, from_si

Answer = dict[str, object]
Keys = TypeVar("Keys", bound=Record)


@dataclass(frozen=True)
class Calculator(Generic[Keys]):
    """One calculator: the record of its keys, and what it does with them."""

    keys: type[Keys]
    compute: Callable[[Keys], Answer]

    @property
    def schema(self) -> Schema:
        """The JSON Schema of its keys."""
        return schema_of(self.keys)

    def answer(self, given: object) -> Answer:
        """What it makes of its keys as they were sent.

        Raises
        ------
        DocumentRefused, CoreError
            Naming the path of a wrong, missing or unknown key.
        """
        keys = msgspec.convert(check_part(given, self.schema), self.keys)
        answer: Answer = msgspec.to_builtins(self.compute(keys))
        return answer


def rounded(value: float, digits: int = 6) -> float:
    """To so many significant figures, so that an answer shows no noise."""
    return float(f"{value:.{digits}g}")


def shown(si: float, unit: str, dimension: Dimension, digits: int = 6) -> Figure:
    """A quantity of an answer, from SI."""
    return Figure(rounded(from_si(si, unit, dimension).value, digits), unit)
