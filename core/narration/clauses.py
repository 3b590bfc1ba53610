"""Clauses: how a sentence falls into them, whom each speaks of, and which figures are names."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import partial

from core.language import say
from core.narration.figures import Figures, Measured
from core.narration.grammar import Grammar
from core.narration.line import Draft
from core.narration.numbers import Number, readings
from core.narration.reading import Item, Reader, Sentence
from core.narration.roles import Around, Roles, roles
from core.narration.whose import MOST, Cylinders, Whose


@dataclass
class Clause:
    """Items between two stops, and whom they speak of."""

    items: list[Item]
    joined: bool = False  # By "and" to the one before.
    who: Cylinders = ()
    figures: list[tuple[Item, Number]] = field(default_factory=list)
    excepted: Cylinders = ()
    near: bool = False
    model: Cylinders = ()  # Same as one.
    lost: bool = False  # Of a cylinder that is not there.
    rest: bool = False  # The others, where nobody was named in the line.

    def of(self, *kinds: str) -> list[Item]:
        return [one for one in self.items if one.kind in kinds]

    @property
    def speaks(self) -> bool:
        """Whether something is said in it, beside whom and which part."""
        return bool(self.figures or self.of("value", "same", "strange", "none"))


class Clauses:
    """Parts sentences into clauses and gives each to whom it speaks of.

    Attributes
    ----------
    said : list of int
        Whoever was named in this line so far.
    within : tuple of int
        Whoever was named in the clause before, of whom nothing was said yet.
    """

    grammar: Grammar
    round: str
    whose: Whose
    reader: Reader
    figures: Figures
    draft: Draft
    said: list[int]
    within: Cylinders

    def _clauses(self, sentence: Sentence) -> list[Clause]:
        found = [Clause([])]
        for item in sentence.items:
            if item.kind == "stop":
                if found[-1].items:
                    found.append(Clause([], joined=item.what in self.reader.soft))
                elif item.what not in self.reader.soft:
                    found[-1].joined = False
                continue
            if self._begins_anew(sentence, found[-1], item):
                found.append(Clause([]))
            found[-1].items.append(item)
        return [one for one in found if one.items]

    def _begins_anew(self, sentence: Sentence, clause: Clause, item: Item) -> bool:
        """Whether an item begins a clause where nobody set a stop: number two black."""
        names = [
            place for place, one in enumerate(clause.items) if self._like_a_name(sentence, one)
        ]
        said = [place for place, one in enumerate(clause.items) if one.kind == "value" or
                (one.kind == "run" and len(one.what) > 1)]  # fmt: skip
        if not names or not said:
            return False
        if names[0] <= said[0]:
            return self._like_a_name(sentence, item)
        return item.kind == "value" and names[-1] == len(clause.items) - 1

    def _like_a_name(self, sentence: Sentence, item: Item) -> bool:
        if item.kind == "who":
            return item.what[0] in ("ordinal", "group")
        if item.kind != "run":
            return False
        number = readings(item.what)[0][0].value if readings(item.what) else 0
        own = sentence.tokens[item.end - 1].own
        named = item.marked or own or sentence.texts[item.start].isdigit()
        return named and self.whose.is_cylinder(
            number if len(item.what) == 1 or own else item_first(item)
        )

    def _whom(self, sentence: Sentence, clauses: list[Clause]) -> None:
        """Whom each clause names, and which of its figures are names."""
        awaited: Cylinders = ()
        silent = True
        listed = self._listed(clauses)
        for at, clause in enumerate(clauses):
            self.within = awaited
            self._runs(sentence, clauses, at, awaited=bool(awaited) or clause in listed)
            self._names(sentence, clause)
            before = clauses[at - 1] if at else None
            lost = bool(clause.of("strange")) or (before is not None and before.lost)
            clause.lost = lost and not clause.who
            if awaited and silent and clause.who and self._goes_on(clause, awaited):
                clause.who = tuple(dict.fromkeys((*awaited, *clause.who)))
            if at and self._goes_on_behind(clauses[at - 1], clause):
                clauses[at - 1].who = (*clauses[at - 1].who, *clause.who)
                self.said += clause.who
                continue
            if clause.who:
                self.said += [one for one in clause.who if one not in self.said]
            excepted = clauses[at - 1].excepted if at else ()
            if excepted and not clause.who and clause.speaks:
                clause.who = excepted  # All tan except five, that's black.
            own = clause.who or awaited
            if clause.speaks:
                clause.who = own
            awaited = own if not clause.speaks or self._wants_a_figure(clause) else ()
            silent = not clause.speaks
        self._behind(clauses)
        others = {one for clause in clauses if not clause.rest for one in clause.who}
        for clause in clauses:
            if clause.rest and others:
                clause.who = tuple(one for one in self.whose.everybody() if one not in others)
                clause.rest = False

    def _listed(self, clauses: list[Clause]) -> list[Clause]:
        """Clauses that are a figure each, as many as there are cylinders: a list of values."""
        bare = [one for one in clauses if one.items and all(two.kind == "run" for two in one.items)]
        whole = [one for one in bare if len(one.items) == 1]
        each = [readings(one.items[0].what) for one in whole]
        if len(whole) < 3 or len(whole) != len(bare):
            return []
        single = all(
            any(len(way) == 1 and self.figures.plausible(way[0]) for way in one) for one in each
        )
        return whole if single else []

    def _goes_on(self, clause: Clause, awaited: Cylinders) -> bool:
        """Whether who is named goes on a list: one, two and five."""
        narrower = set(clause.who) < set(awaited)
        first = next((one for one in clause.items if one.kind != "word"), clause.items[0])
        return not narrower and first.kind in ("who", "run")

    def _goes_on_behind(self, before: Clause, clause: Clause) -> bool:
        """Two and a half for four, five, six: who is named goes on behind what was said."""
        alone = len(clause.items) == 1 and clause.items[0].kind == "who" and not clause.figures
        ends = before.items[-1].kind == "who" and before.near and before.speaks
        return alone and ends and bool(clause.who) and clause.who[0] not in before.who

    def _nobody(self, item: Item, around: Around, found: Roles, *, said: bool) -> bool:
        """Whether a figure names a cylinder that this engine has not; then that is asked."""
        number = _only_number(item)
        if number is None or not 0 < self.whose.count < number <= MOST or around.unit:
            return False
        names = around.marked or around.owns or (around.opens and said)
        if not names or (found.score > 0 and not around.marked):
            return False
        self.draft.ask(say("This engine has no cylinder {number}.", number=number), "/")
        return True

    def _ends_named(self, clauses: list[Clause], at: int) -> bool:
        before = clauses[at - 1] if at else None
        return bool(before and before.near and before.speaks and before.items[-1].kind == "who")

    def _wants_a_figure(self, clause: Clause) -> bool:
        """Three with oil: what it comes to is still to be said."""
        if self.round not in ("pressures", "leakdown") or clause.figures or not clause.who:
            return False
        return all(any(one.part == "pressing" for one in item.what) for item in clause.of("value"))

    def _one_each(self, clauses: list[Clause]) -> None:
        """As many figures as cylinders are spoken of, clause by clause: one for each."""
        everybody = self.whose.everybody()
        single = all(len(one.items) == 1 and one.items[0].kind == "value" for one in clauses)
        if single and len(clauses) == len(everybody) > 1 and not self.whose.last:
            for clause, one in zip(clauses, everybody, strict=True):
                clause.who = (one,)  # Tan, tan, black, tan.
        for at, clause in enumerate(clauses):
            whom = clause.who or self.whose.last or self.whose.everybody()
            following = []
            for other in clauses[at:]:
                if (other.who and other is not clause) or not other.figures or other.of("value"):
                    break
                following.append(other)
            figures = [one for other in following for one in other.figures]
            if len(following) < 2 or len(figures) != len(following):
                continue
            if len(figures) == len(whom):
                whom = tuple(whom)
            elif len(figures) == len(self.whose.everybody()) and not clause.who:
                whom = self.whose.everybody()
            else:
                continue
            for other, one in zip(following, whom, strict=True):
                other.who = (one,)

    def _behind(self, clauses: list[Clause]) -> None:
        """Grit, a little, in six only; sand and muck in three: who is named after it was said."""
        named = next((at for at, one in enumerate(clauses) if one.who), 0)
        first = clauses[named] if clauses else None
        if not named or first is None or self.said != list(first.who)[: len(self.said)]:
            return
        last = named == len(clauses) - 1 and not first.speaks
        opens = first.joined or first.items[0].marked or first.of("who")[:1] == first.items[:1]
        marked = first.near or any(one.marked for one in first.items)
        if last or (opens and marked):
            for clause in clauses[:named]:
                clause.who = first.who

    def _runs(self, sentence: Sentence, clauses: list[Clause], at: int, *, awaited: bool) -> None:
        clause = clauses[at]
        for place, item in enumerate(list(clause.items)):
            if item.kind == "run":
                self._run(sentence, clauses, at, place, item, awaited=awaited)

    def _run(
        self,
        sentence: Sentence,
        clauses: list[Clause],
        at: int,
        place: int,
        item: Item,
        *,
        awaited: bool,
    ) -> None:
        clause, texts = clauses[at], sentence.texts
        before = clause.items[place - 1] if place else None
        behind = clause.items[place + 1] if place + 1 < len(clause.items) else None
        if before is not None and before.kind == "who" and before.what[0] != "number":
            number = _only_number(item)
            counts = before.what[0] in ("all", "rest", "first", "last", "both", "group")
            between = texts[before.end : item.start]
            near = counts and (not between or set(between) <= self.reader.markers)
            grouped = before.what[0] == "group" and self._measures(clause, place, item)
            if number is not None and number <= MOST and near and not grouped:
                before.what = (*before.what, number)
                return
        measured = self._measures(clause, place, item)
        others = [one for one in clause.items if one is not item and one.kind != "hedge"]
        speaks = behind is not None and behind.kind in (
            "value",
            "part",
            "same",
            "word",
            "measure",
            "deny",
            "hedge",
        )
        around = Around(
            marked=item.marked,
            near=bool(item.start) and texts[item.start - 1] in self.reader.near,
            owns=sentence.tokens[item.end - 1].own,
            unit=behind is not None and behind.kind == "unit" and behind.start == item.end,
            measured=measured,
            opens=place == 0,
            alone=not others,
            speaks=speaks,
            joined=place == 0 and ((clause.joined and awaited) or self._ends_named(clauses, at)),
            within=self.within,
            counts=self.figures.counts(),
            followed=at + 1 < len(clauses) and clauses[at + 1].items[0].kind == "run",
            awaited=awaited
            or bool(clause.of("who"))
            or any(one is not item and one.kind == "run" for one in clause.items[:place]),
        )
        fits = partial(self._fits, sentence, clause, item, behind)
        found = roles(item.what, around, self.whose.is_cylinder, fits)
        if found.doubtful and self.figures.round_measures():
            pass
        if before is not None and before.kind == "same" and found.names:
            clause.model = found.names
            item.kind = "word"
            return
        said = behind is not None and behind.kind in ("value", "part", "same")
        if self._nobody(item, around, found, said=said):
            item.kind = "strange"
            return
        item.kind = "who"
        item.what = ("number", found.names)
        item.marked = item.marked or around.near
        clause.figures += [(item, one) for one in found.figures]
        if not found.names:
            item.kind = "word" if not found.figures else "figure"

    def _measures(self, clause: Clause, place: int, item: Item) -> bool:
        before = clause.items[:place]
        return any(
            one.kind == "measure" or (one.kind == "part" and one.what == "gap") for one in before
        )

    def _fits(
        self, sentence: Sentence, clause: Clause, item: Item, behind: Item | None, one: Number
    ) -> float:
        unit = behind.what if behind is not None and behind.kind == "unit" else None
        return self.figures.fits(self._measured(clause, unit), one, unit)

    def _measured(self, clause: Clause, unit: str | None) -> Measured:
        nouns = [one.what for one in clause.of("measure")]
        parts = [one.what for one in clause.of("part")]
        return self.figures.measured(nouns, parts, unit)

    def _names(self, sentence: Sentence, clause: Clause) -> None:
        """Everybody whom a clause names, the excepted left out."""
        found: list[int] = []
        excepted: list[int] = []
        out = False
        for item in clause.items:
            if item.kind == "except":
                out = self.draft.corrects = True
            if item.kind != "who":
                continue
            if (
                (found or self.within or self.said)
                and item.what[0] in ("all", "both")
                and len(item.what) < 3
            ):
                continue  # One and two all square: everybody of these.
            denied = self.grammar.raw["denials"]["not"]
            if not {*denied}.isdisjoint(sentence.texts[max(item.start - 2, 0) : item.start]):
                self.draft.corrects = True  # Not three, two.
                continue
            own = self._named(item, [*self.said, *found])
            clause.rest = clause.rest or (item.what[0] == "rest" and not self.said)
            if out:
                excepted += own
            else:
                found = self._ranged(sentence, item, found, own)
            clause.near = clause.near or item.marked
        if excepted and not found:
            opens = clause.items[0].kind == "except"  # Except seven, seven has an insert.
            found, excepted = (excepted, []) if opens else ([*self.whose.everybody()], excepted)
        clause.excepted = tuple(excepted)
        clause.who = tuple(dict.fromkeys(one for one in found if one not in excepted))

    def _ranged(
        self, sentence: Sentence, item: Item, found: list[int], own: Cylinders
    ) -> list[int]:
        """One to four names those between as well."""
        before = sentence.texts[item.start - 1] if item.start else ""
        ranges = self.grammar.whom["ranges"]
        if before in ranges and found and len(own) == 1 and own[0] > found[-1]:
            return [*found, *range(found[-1] + 1, own[0] + 1)]
        return [*found, *own]

    def _named(self, item: Item, said: Sequence[int]) -> Cylinders:
        kind, what, *number = item.what
        if kind == "number":
            return tuple(what)
        return self.whose.resolve(kind, what, number[0] if number else None, said)


def item_first(item: Item) -> float:
    """The first figure of a run."""
    return readings(item.what[:1])[0][0].value if readings(item.what[:1]) else 0.0


def _only_number(item: Item) -> int | None:
    found = readings(item.what)
    return int(found[0][0].value) if found and len(found[0]) == 1 and found[0][0].whole else None
