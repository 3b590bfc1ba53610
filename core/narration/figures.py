"""Figures as observations: whose they are, of what, and in which unit."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise
from typing import Any

from core.narration.lexicon import lexicon, longest_at
from core.narration.line import (
    FIGURE_OF,
    QUANTITY_OF,
    Line,
    Proposal,
    Question,
    clauses_of,
    fits,
    hedged,
)
from core.narration.numbers import Number, number_at
from core.narration.whom import COMPARED, MOST_CYLINDERS, Whom, counts

OF_SUPPLY = (("over",), ("/",), ("out", "of"), ("from",), ("of",))
BLADES = {"blade", "feeler", "goes", "go", "passes", "slides", "take", "takes", "fit", "fits"}
REFUSES = {"doesn't", "won't", "refuses", "not", "can't", "wouldn't"}
STRANGE = ("tenths", "tenth", "hundredths", "hundredth", "microns", "turns")  # No unit of ours.
NOTHING = {"nothing", "zero", "dead", "zilch"}  # Of a pressure: none at all.
NOTHING_WRONG = ("clean", "sound", "none")  # What goes when something is said to be.
SURE, NUMBER_SURE, HEARD_SURE, UNIT_GUESSED = 0.97, 0.96, 0.75, 0.88
HEDGED = 0.7


class Figures(Whom):
    """Takes figures in, each with the unit that was said or is meant.

    Attributes
    ----------
    cylinder : int or None
        Whom was spoken of last.
    read : list of int
        Those of whom the round's own figure was said, in order.
    """

    cylinder: int | None
    read: list[int]

    def _put(self, line: Line, proposal: Proposal) -> None:
        """Take a proposal in; words of one list come together, and the later word counts."""
        before = line.found.get(proposal.path)
        if before and before.value != proposal.value and proposal.path.endswith("/wet_with"):
            words = f"{before.words}, {proposal.words}"
            if max(before.confidence, proposal.confidence) <= SURE * HEDGED + 0.01:
                proposal = replace(proposal, value="unknown", words=words)  # This or that.
        if before and isinstance(proposal.value, list):
            joined = [*before.value, *(w for w in proposal.value if w not in before.value)]
            joined = [one for one in joined if one not in NOTHING_WRONG] or joined[:1]
            proposal = replace(proposal, value=joined, words=f"{before.words}, {proposal.words}")
        line.found[proposal.path] = proposal

    def _figures(
        self,
        line: Line,
        texts: Sequence[str],
        clause: range,
        spoken_of: tuple[int, ...] | None,
        nouns: Sequence[tuple[int, int, str]],
    ) -> None:
        at = clause.start
        while at < clause.stop:
            number = number_at(texts, at) if at not in line.taken else None
            if number is None or number.end > clause.stop or counts(texts, at):
                at += 1
                continue
            if number.end < clause.stop and texts[number.end] in STRANGE:
                at = number.end + 1
                continue
            if _compares(texts[: clause.stop], at, number.end):
                at = number.end
                continue
            self._figure(line, texts, at, number, spoken_of, nouns)
            at = number.end
        said = set(texts[clause.start : clause.stop])
        fillers = lexicon().fillers
        left = {texts[at] for at in clause if at not in line.taken and texts[at] not in fillers}
        nothing = bool(left) and left <= NOTHING  # "Nothing wrong with it" is another thing.
        if self.round == "pressures" and ({"no", "compression"} <= said or nothing):
            for one in spoken_of or ():
                words = line.words(clause.start, clause.stop)
                path = _figure_path("pressure", one)
                if path in line.found:
                    continue
                line.taken.update(at for at in clause if texts[at] in NOTHING)
                self._put(line, Proposal(path, {"value": 0, "unit": "psi"}, words, 0.85))

    def _figure(
        self,
        line: Line,
        texts: Sequence[str],
        at: int,
        number: Number,
        spoken_of: tuple[int, ...] | None,
        nouns: Sequence[tuple[int, int, str]],
    ) -> None:
        phrase = longest_at(lexicon().units, texts, number.end, lexicon().longest)
        if self.round == "gaps" and phrase == ("bar",):
            phrase = None  # All forty bar four.
        unit = lexicon().units[phrase] if phrase else None
        end = number.end + (len(phrase) if phrase else 0)
        if unit == "strokes":
            line.taken.update(range(at, end))
            path = "/tests/compression/0/puffs"
            self._put(line, Proposal(path, int(number.value), line.words(at, end), NUMBER_SURE))
            return
        if unit is None and line.unit == "rpm":
            unit = "rpm"
        if unit == "rpm":
            line.unit = unit
            if self.round == "pressures":
                line.taken.update(range(at, end))
                path = "/tests/compression/0/cranking_rpm"
                said = line.words(at, end)
                self._put(line, Proposal(path, _plain(number.value), said, NUMBER_SURE))
            for one in spoken_of or () if self.round == "running" else ():
                line.taken.update(range(at, end))
                path, said = f"/tests/balance/{one}/rpm_drop", line.words(at, end)
                self._put(line, Proposal(path, _plain(number.value), said, NUMBER_SURE))
            return
        of_gap = any(name == "gap" for _, _, name in nouns)
        if self.round == "fitting" and unit is None and not fits("torque", None, number.value):
            of_gap = True
        quantity = QUANTITY_OF.get(unit or "") or (
            "gap" if of_gap else FIGURE_OF.get(self.round, "")
        )
        if not quantity or (self.round == "faces" and not unit and not of_gap):
            return
        if quantity == "percent" and self.round != "leakdown":
            return  # Of the others, or of its best: nothing that was read.
        sure = NUMBER_SURE
        if unit is None:
            unit = self._unit_of(quantity, number.value, line)
            sure = UNIT_GUESSED if quantity != "percent" else NUMBER_SURE
            if unit is None:
                return
        line.unit = unit
        if hedged(line, range(at, end), texts):
            sure *= HEDGED
        if any(line.tokens[one].misheard for one in range(at, end)):
            sure *= HEARD_SURE
        blade = _blade(texts, at) if self.round == "gaps" else ""
        line.taken.update(range(at, end))
        first = at - 1 if at and texts[at - 1] == "gap" else at
        said = line.words(first, end)
        for one in self._figures_of(quantity, spoken_of, line):
            path = _figure_path(quantity, one, fitting=self.round == "fitting")
            if self.round == "leakdown" and quantity == "pressure":
                path = f"/tests/leakdown/0/readings/{one}/held"
            if self.round == "gaps" and blade:
                path = f"/cylinders/{one}/plug/{blade}"
            if number.value and not fits(quantity, unit, number.value):
                text = f"{said} on {one}: was that the unit?"
                line.questions[path] = Question(text, path)
                continue
            value: Any = _plain(number.value)
            if quantity != "percent":
                value = {"value": value, "unit": unit}
            self._put(line, Proposal(path, value, said, round(sure, 2)))

    def _unit_of(self, quantity: str, value: float, line: Line) -> str | None:
        """The unit that is meant where none is said: the line's, or the first that fits."""
        units = lexicon().plausible[quantity]
        if value < lexicon().unsaid.get(quantity, 0) and value == int(value) and value:
            return None  # Do two again: no pressure is so low and so round.
        if value == 0 and quantity == "pressure" and line.unit is None:
            return "psi"  # Nothing is nothing in any unit.
        if line.unit in units and fits(quantity, line.unit, value):
            return line.unit
        return next((unit for unit in units if fits(quantity, unit, value)), None)

    def _figures_of(
        self, quantity: str, spoken_of: tuple[int, ...] | None, line: Line
    ) -> tuple[int, ...]:
        """Whose figure it is: who was named, or the next in the order of the bench."""
        if spoken_of:
            self.read += [one for one in spoken_of if one not in self.read]
            return spoken_of
        if FIGURE_OF.get(self.round) != quantity or self.round in ("faces", "fitting"):
            return (self.cylinder,) if self.cylinder else ()
        if self.cylinder and self.cylinder not in self.read and not line.found:
            nxt = self.cylinder
        else:
            last = self.read[-1] if self.read else None
            order = self.order or list(range(1, MOST_CYLINDERS + 1))
            at = order.index(last) + 1 if last in order else 0
            if at >= len(order):
                return ()
            nxt = order[at]
        self.read.append(nxt)
        self.cylinder = nxt
        return (nxt,)

    def _held(
        self, line: Line, texts: Sequence[str], clause: range, cylinders: tuple[int, ...] | None
    ) -> None:
        """Seventy two over eighty: held of what was supplied."""
        for at in clause:
            held = number_at(texts, at) if at not in line.taken else None
            if held is None or held.end >= clause.stop:
                continue
            rest = texts[held.end :]
            of = next((w for w in OF_SUPPLY if tuple(rest[: len(w)]) == w), None)
            if of is None:
                continue
            supply = number_at(texts, held.end + len(of))
            if supply is None:
                continue
            line.taken.update(range(at, supply.end))
            words = line.words(at, supply.end)
            for one in cylinders or ():
                path = f"/tests/leakdown/0/readings/{one}/held"
                value = {"value": _plain(held.value), "unit": "psi"}
                self._put(line, Proposal(path, value, words, UNIT_GUESSED))


def _compares(texts: Sequence[str], at: int, end: int) -> bool:
    """Whether a figure of a clause is a difference or one of two ends, and not what was read."""
    behind = texts[end : end + 3]  # Its unit, and "lower than".
    lower = any(one in COMPARED and other in ("than", "on") for one, other in pairwise(behind))
    before = texts[at - 1] if at else ""
    over = any(one in ("over", "under") for one in behind[1:2]) and behind[0] in ("thou", "mm")
    apart = texts[max(at - 6, 0) : at]
    if over or ("between" in apart and "and" in apart[apart.index("between") :]):
        return True
    other = before == "than" and end == len(texts)  # Twenty lower than one.
    return lower or other or before == "between" or (before == "and" and "between" in texts[:at])


def _figure_path(quantity: str, cylinder: int, *, fitting: bool = False) -> str:
    match quantity:
        case "pressure":
            return f"/tests/compression/0/readings/{cylinder}/pressure"
        case "percent":
            return f"/tests/leakdown/0/readings/{cylinder}/percent"
        case "torque":
            return f"/refit/cylinders/{cylinder}/torque"
        case _:
            return f"/{'refit/' if fitting else ''}cylinders/{cylinder}/plug/gap"


def _plain(value: float) -> float | int:
    return int(value) if value == int(value) else round(value, 6)


def _blade(texts: Sequence[str], at: int) -> str:
    """Where a blade is spoken of, whether that of a token goes through or not."""
    if not BLADES & set(texts):
        return ""
    said = next(({texts[i] for i in one} for one in clauses_of(texts) if at in one), set())
    return "gap_refuses" if said & REFUSES else "gap_passes"
