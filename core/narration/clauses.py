"""How a line falls into clauses, and whom each speaks of."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import pairwise

from core.narration.lexicon import lexicon, longest_at
from core.narration.line import FIGURE_OF, QUANTITY_OF, Line, Token, fits, value_of
from core.narration.numbers import is_number, number_at
from core.narration.whom import DOES, FIGURES_IN, JOINS, MARKS, NAMING, OPENERS, PLACES, Whom

REFERRING = ("that", "that's", "it", "it's", "which", "which's", "those", "they", "this")
LIKEWISE = {"same", "ditto", "likewise", "too", "also"}
OPENING = ("okay", "ok", "right", "good", "fine", "alright", "perfect")  # Okay, number one ...
CORRECTED = (
    ("correction",),
    ("actually",),
    ("no", "wait"),
    ("i", "mean"),
    ("i", "meant"),
    ("forget", "what", "i", "said", "about"),
    ("scratch", "that"),
    ("sorry",),
)


class Clauses(Whom):
    """Parts a line where no stop was set, and gives what was said of one to whom it is of.

    Attributes
    ----------
    cylinder : int or None
        Whom was spoken of last.
    """

    cylinder: int | None

    def _parts(self, line: Line, texts: Sequence[str], clause: range) -> Iterator[range]:
        """A clause as it was meant where nobody set a stop: number one tan number two black.

        It is parted before each name if it begins with one, and behind each (tan on one black on
        two) if it does not; something must be said of each.
        """
        start, said = clause.start, False
        at = next((one for one in clause if texts[one] not in OPENERS), clause.stop)
        if ":" in texts[at : clause.stop]:
            at = texts.index(":", at) + 1  # Wet: 1 150 2 148.
        named = self._naming(line, texts, at, clause, last=0)
        if named is None:
            yield from self._parts_behind(texts, clause)
            return
        last, at = named
        while at < clause.stop:
            joined = texts[at - 1] in JOINS or texts[at - 1] in PLACES
            named = None if joined else self._naming(line, texts, at, clause, last=last)
            if named and said:
                yield range(start, at)
                start, said = at, False
            said = said or not (named or texts[at] in JOINS)
            last, at = named or (last, at + 1)
        yield range(start, clause.stop)

    def _naming(
        self, line: Line, texts: Sequence[str], at: int, clause: range, *, last: int
    ) -> tuple[int, int] | None:
        """The cylinder that is named at a token and where that ends; a bare one must go on."""
        number = at + (at < clause.stop and texts[at] in NAMING)
        if not self._small(texts, number, clause) or self._unit_after(texts, number + 1):
            return None
        value = int(value_of(texts[number]))
        if number > at:
            return value, number + 1
        behind = texts[number + 1] if number + 1 < clause.stop else ""
        written = texts[number].isdigit() or line.tokens[number].owns
        plural = bool(behind) and line.tokens[number + 1].plural
        of_figures = self.round in FIGURES_IN and not written and not behind.isdigit()
        if plural or (of_figures and not self._before_a_figure(texts, number)):
            return None
        goes_on = value > last if written or not last else value == last + 1
        return (value, number + 1) if goes_on and value in self.order else None

    def _before_a_figure(self, texts: Sequence[str], at: int) -> bool:
        """Whether a number names, because what stands behind it is the figure: two six percent."""
        whole, figure = number_at(texts, at), number_at(texts, at + 1)
        unit = self._unit_after(texts, figure.end) if figure else None
        if whole is None or figure is None or unit is None:
            return False
        quantity = QUANTITY_OF.get(unit, FIGURE_OF[self.round])
        alone = whole.end == at + 1 or not fits(quantity, unit, whole.value)
        return alone and fits(quantity, unit, figure.value)

    def _parts_behind(self, texts: Sequence[str], clause: range) -> Iterator[range]:
        ends = []
        for at in clause:
            end = at + 2
            if texts[at] != "on" or not self._small(texts, at + 1, clause):
                continue
            while end < clause.stop and texts[end] in JOINS and self._small(texts, end + 1, clause):
                end += 2
            if not self._unit_after(texts, end):
                ends.append(end)
        start = clause.start
        for end in ends[:-1]:
            if texts[end] not in JOINS:
                yield range(start, end)
                start = end
        yield range(start, clause.stop)

    def _joined(
        self, clauses: Sequence[range], refs: list[tuple[int, ...] | None], line: Line
    ) -> None:
        """One, two and four: a number by itself before others that are named belongs to them."""
        for at in range(len(clauses) - 1):
            here, following = refs[at], refs[at + 1]
            if here and following and set(clauses[at]) <= line.taken:
                refs[at + 1] = (*here, *(one for one in following if one not in here))

    def _part(self, tokens: list[Token]) -> None:
        """Part what was joined with "and", and is of two: one's this and two's that."""
        texts = [one.text for one in tokens]
        for at, text in enumerate(texts):
            if text != "and" or not at or at + 1 == len(texts):
                continue
            does = is_number(texts[at + 1]) and texts[at + 2 : at + 3] in [[one] for one in DOES]
            if does or tokens[at + 1].owns or self._joins_figures(texts, at):
                tokens[at] = replace(tokens[at], text=",")

    def _joins_figures(self, texts: Sequence[str], at: int) -> bool:
        """Forty on three and forty five on four: what each is said of stands behind its figure."""
        figure = number_at(texts, at + 1)
        joined = texts[at - 1] in ("hundred", "thousand") or "between" in texts[:at]
        if figure is None or joined or figure.end + 1 >= len(texts):
            return False
        end = figure.end
        if unit := longest_at(lexicon().units, texts, end, lexicon().longest):
            end += len(unit)
        behind = texts[end : end + 2]
        return len(behind) == 2 and behind[0] in ("on", "for", "at") and is_number(behind[1])

    def _only_opens(self, texts: Sequence[str]) -> bool:
        """Whether a line's first word only opens it, and says nothing: okay, number one."""
        if len(texts) < 2 or texts[0] not in OPENING:
            return False
        behind = [one for one in texts[1:4] if one not in (",", "so", "then", "now")]
        named = bool(behind) and (behind[0] in MARKS or self._small(behind, 0, range(len(behind))))
        return named or (texts[0] in OPENING[:3] and texts[1] == ",")

    def _likewise(
        self,
        line: Line,
        texts: Sequence[str],
        clauses: list[range],
        refs: list[tuple[int, ...] | None],
    ) -> None:
        """One's tan and dry, two the same: what was said of the one is said of the other."""
        for at in reversed(range(1, len(clauses))):
            named = refs[at]
            if named is None or not says_alike(texts, clauses[at]):
                continue
            back = named_before(refs, at)
            if back is not None and (own := refs[back]):
                refs[back] = (*own, *(one for one in named if one not in own))
                line.taken.update(clauses[at])
                del clauses[at], refs[at]

    def _renamed(
        self,
        texts: Sequence[str],
        clauses: list[range],
        refs: list[tuple[int, ...] | None],
    ) -> None:
        """Two is wet, I mean number three: the later name is whom it was said of."""
        for at in reversed(range(1, len(clauses))):
            said = texts[clauses[at].start : clauses[at].stop]
            words = next((w for w in CORRECTED if tuple(said[: len(w)]) == w), None)
            rest = [one for one in said[len(words or ()) :] if one not in MARKS]
            if words and len(rest) == 1 and refs[at] and is_number(rest[0]):
                back = named_before(refs, at)
                if back is not None:
                    refs[back] = refs[at]
                    del clauses[at], refs[at]

    def _of_the_excepted(
        self,
        line: Line,
        texts: Sequence[str],
        clauses: Sequence[range],
        refs: list[tuple[int, ...] | None],
    ) -> None:
        """All tan except five, that's black: the last is said of five."""
        for at, clause in enumerate(clauses[1:], start=1):
            refers = texts[clause.start] in REFERRING
            if refs[at] is None and line.excepted and refers:
                refs[at] = tuple(line.excepted)

    def _in_order(
        self, line: Line, texts: Sequence[str], clauses: Sequence[range]
    ) -> list[tuple[int, ...] | None] | None:
        """As many words or figures as there are cylinders, and nothing else: one for each."""
        if len(clauses) != self.count or self.count < 2 or self.cylinder is not None:
            return None
        owned = [clause.start for clause in clauses if line.tokens[clause.start].owns]
        whose = [
            number for number, one in zip(self.order, clauses, strict=False) if one.start in owned
        ]
        if [value_of(texts[at]) for at in owned] != whose:
            return None  # Four's eighty five is said of four, wherever it stands.
        figures = [number_at(texts, one.start + (one.start in owned)) for one in clauses]
        bare = [
            figure is not None and figure.end == clause.stop
            for figure, clause in zip(figures, clauses, strict=True)
        ]
        if self.round in FIGURES_IN and all(bare):
            values = [figure.value for figure in figures if figure]
            units = lexicon().plausible[FIGURE_OF[self.round]].values()
            if not any(all(low <= one <= high for one in values) for low, high in units):
                return None
            line.taken.update(owned)
            return [(number,) for number in self.order]
        words = [tuple(texts[clause.start : clause.stop]) for clause in clauses]
        said = all(one in lexicon().phrases for one in words)
        return [(number,) for number in self.order] if said else None


def named_before(refs: Sequence[tuple[int, ...] | None], at: int) -> int | None:
    """The last clause before one that names somebody."""
    return next((one for one in reversed(range(at)) if refs[one] is not None), None)


def says_alike(texts: Sequence[str], clause: range) -> bool:
    """Whether a clause says nothing but of whom the one before holds as well."""
    said = list(texts[clause.start : clause.stop])
    as_well = said[-2:] == ["as", "well"]
    alike = as_well or not LIKEWISE.isdisjoint(said)
    rest = {one for one in said if not is_number(one)} - LIKEWISE - lexicon().fillers
    return alike and not rest and ("same", "as") not in pairwise(said)
