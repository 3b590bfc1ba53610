"""Figures as observations: of what, in which unit, and whether they can be.

A unit that was said stands; else the one that this measure had before in the session, else the
specification's, else the first in which the figure can be.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from core.language import say
from core.narration.grammar import Grammar, Measure
from core.narration.numbers import Number
from core.narration.roles import FITS, MISFIT
from core.quantities import DIMENSION_OF, Quantity

# A figure whose unit was guessed is less sure than one whose unit was said or is in force.
SAID, IN_FORCE, GUESSED = 0.97, 0.96, 0.85
SPECIFIED = {
    "gap": ("gap_min", "gap_max", "gap"),
    "torque": ("torque_new", "torque_reused"),
    "pressure": ("compression_min", "compression_max"),
}
ASKED = ("torque",)  # Whose units lie so near that none is guessed.
ALTERNATIVES = ("held", "percent")
LEAST = 4  # A smaller whole figure without its unit is a number of something.
FAR = 2.2  # Times the specification, or a third of it: such a figure is asked about.


@dataclass(frozen=True)
class Measured:
    """What is measured, and how it was known: by a noun, by its unit, or by the round."""

    measure: Measure | None
    named: bool = False


@dataclass(frozen=True)
class Taken:
    """A figure as an observation, or a question about it."""

    place: str
    value: Any
    sure: float
    question: str = ""


class Figures:
    """Knows which units are in force.

    Attributes
    ----------
    units : dict of str to str
        By dimension, the unit that was said last.
    """

    def __init__(self, grammar: Grammar, document: Mapping[str, Any] | None, round_: str) -> None:
        self.grammar = grammar
        self.round = round_
        self.least = max(LEAST, int((document or {}).get("engine", {}).get("cylinders", 0)))
        self.units: dict[str, str] = {}
        self.said_of_line: str | None = None
        self.recent: str | None = None  # By which of the two a leak is measured here.
        self.named: str | None = None  # What was measured by name in this line.
        self.specified: dict[str, list[Mapping[str, Any]]] = {}
        specification = (document or {}).get("engine", {}).get("specification", {})
        for dimension, names in SPECIFIED.items():
            own = [specification[name] for name in names if name in specification]
            if own:
                self.specified[dimension] = own
                self.units[dimension] = own[0]["unit"]

    def opens(self, line: str) -> None:
        self.said_of_line = self.named = None

    def hears(self, sentences: Sequence[Sequence[str]]) -> None:
        """A unit that stands once in a line is of all its figures."""
        found = []
        for texts in sentences:
            for at in range(len(texts)):
                if (hit := self.grammar.measure_nouns.at(texts, at)) and self._here(hit[1]):
                    own = self.grammar.measures[hit[1]].rounds  # As they came says more than gap.
                    self.named = hit[1] if own else self.named or hit[1]
            at = 0
            while at < len(texts):
                hit = self.grammar.units.at(texts, at)
                if hit:
                    found.append(hit[1])
                at = hit[0] if hit else at + 1
        if len(set(found)) == 1:
            self.said_of_line = found[0]

    def _here(self, name: str) -> bool:
        rounds = self.grammar.measures[name].rounds
        return not rounds or self.round in rounds

    def counts(self) -> bool:
        """Whether something is counted here."""
        return self.named is not None and self.grammar.measures[self.named].dimension == "count"

    def round_measures(self) -> bool:
        return self.round in self.grammar.raw["round_figure"]

    def measured(self, nouns: Sequence[str], parts: Sequence[str], unit: str | None) -> Measured:
        """What a clause measures."""
        measures = self.grammar.measures
        own = [
            one for one in nouns if not measures[one].rounds or self.round in measures[one].rounds
        ]
        if unit is not None:
            own = [one for one in own if self._holds(measures[one], unit)]
        if own:
            self.named = own[-1]
            name = "new_gap" if own[-1] == "gap" and self.round == "fitting" else own[-1]
            return Measured(measures[name], named=True)
        if self.named and (unit is None or self._holds(measures[self.named], unit)):
            name = "new_gap" if self.named == "gap" and self.round == "fitting" else self.named
            return Measured(measures[name])
        if "gap" in parts and (unit is None or unit in self.grammar.plausible["gap"]):
            name = "new_gap" if self.round == "fitting" else "gap"
            return Measured(measures[name], named=True)
        if unit is None and self.said_of_line is not None:
            unit = self.said_of_line  # Three at thirty six, where thou were said before.
        usual = self.recent or self.grammar.raw["round_figure"].get(self.round)
        if unit is None:
            return Measured(measures[usual] if usual else None)
        if usual and self._holds(measures[usual], unit):
            return Measured(measures[usual])
        by_unit = [one for one in measures.values() if self._holds(one, unit)]
        fit = [one for one in by_unit if self.round in one.rounds] or by_unit
        return Measured(fit[0] if fit else None)

    def _holds(self, measure: Measure, unit: str) -> bool:
        return unit in self.grammar.plausible[measure.dimension]

    def fits(self, measured: Measured, one: Number, unit: str | None) -> float:
        """How well a figure suits what is measured."""
        if measured.measure is None:
            return MISFIT / 2
        ranges = self.grammar.plausible[measured.measure.dimension]
        said, unit = unit, unit or self._in_force(measured.measure, ranges)
        wanted = [ranges[unit]] if unit is not None and unit in ranges else list(ranges.values())
        counts = measured.measure.dimension == "count"
        if (
            said is None
            and not measured.named
            and not counts
            and one.kind == "plain"
            and one.value <= self.least
            and one.whole
        ):
            return MISFIT / 4
        if any(low <= one.value <= high for low, high in wanted):
            return FITS + (1.0 if one.kind == "decimal" and unit in ("bar", "kgf/cm2") else 0.0)
        return MISFIT / 2 if one.whole else MISFIT / 4

    def _in_force(self, measure: Measure, ranges: Mapping[str, Any]) -> str | None:
        if self.said_of_line in ranges:
            return self.said_of_line
        return self.units.get(measure.dimension)

    def take(self, measured: Measured, one: Number, unit: str | None, sure: float) -> Taken:
        """A figure as an observation."""
        measure = measured.measure
        if measure is None:
            return Taken("", None, 0.0)
        ranges = self.grammar.plausible[measure.dimension]
        said = next((one for one in (unit, self.said_of_line) if one in ranges), None)
        chosen = said or self.units.get(measure.dimension)
        confidence = min(sure, SAID if said else IN_FORCE)
        if chosen is None:
            guesses = self.grammar.unsaid[measure.dimension].items()
            can_be = [name for name, (low, high) in guesses if low <= one.value <= high]
            if not can_be:
                return Taken("", None, 0.0)
            if len(can_be) > 1 and measure.dimension in ASKED:
                return Taken(
                    measure.place,
                    None,
                    sure,
                    say("{value}: in which unit?", value=f"{one.value:g}"),
                )
            chosen, confidence = can_be[0], min(sure, GUESSED if len(can_be) > 1 else IN_FORCE)
        value = self._value(measure, one.value, chosen)
        low, high = ranges[chosen]
        if not low <= one.value <= high or self._far(measure, one.value, chosen):
            return Taken(
                measure.place,
                value,
                sure,
                say("{value}: is that right?", value=f"{one.value:g} {chosen}"),
            )
        self.units[measure.dimension] = chosen
        if measure.name in ALTERNATIVES:
            self.recent = measure.name
        return Taken(measure.place, value, confidence)

    def plausible(self, one: Number) -> bool:
        """Whether a figure can be what the round is about."""
        return self.fits(self.measured((), (), None), one, None) > 0

    def _value(self, measure: Measure, value: float, unit: str) -> Any:
        plain: Any = int(value) if value == int(value) else value
        return plain if measure.bare else {"value": plain, "unit": unit}

    def _far(self, measure: Measure, value: float, unit: str) -> bool:
        own = [
            in_si(one["value"], one["unit"]) for one in self.specified.get(measure.dimension, ())
        ]
        return bool(own) and not min(own) / FAR <= in_si(value, unit) <= max(own) * FAR


def in_si(value: float, unit: str) -> float:
    """A figure in SI, so that those of different units compare."""
    return Quantity(value, unit, DIMENSION_OF[unit]).si if unit in DIMENSION_OF else value
