"""What a clause says: words that mean something of a part, and figures of what is measured."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from core.narration.clauses import Clause, Clauses
from core.narration.grammar import Meaning
from core.narration.line import Proposal
from core.narration.reading import Item, Sentence
from core.narration.whose import Cylinders

# How something was known, the surest first; figures.py has those of its own.
SURE, CARRIED, GUESSED, HEDGED = 0.97, 0.95, 0.85, 0.6
LOOKED_BACK = 4  # Tokens between what denies and what is denied.


class Meanings(Clauses):
    """Says what clauses mean.

    Attributes
    ----------
    part, line_part : str or None
        Of which part something was said last, and in this line.
    last : Meaning or None
        What was said last.
    origin : dict
        By path, the place that was meant and whose it is.
    """

    part: str | None
    line_part: str | None
    stale: bool  # The part was named of somebody else.
    open_parts: list[str]
    last: Meaning | None
    alone: bool
    known: dict[str, Any]
    has_distributor: bool
    origin: dict[str, tuple[str, int]]
    uttered: dict[str, object]
    _spoken: dict[int, dict[str, Any]]
    _visits: dict[int, dict[str, Any]]

    def _clause(self, sentence: Sentence, clause: Clause) -> None:
        if self._says_nothing_here(sentence, clause):
            clause.items = [replace(one, kind="word") for one in clause.items]
            clause.figures = []
            return
        if not clause.who and self._of_all(sentence, clause):
            clause.who = self.whose.everybody()
        if clause.who:
            self._speak_of(clause.who)
        cylinders = clause.who or self.whose.last
        if clause.of("same") and self._same(sentence, clause, cylinders):
            return
        if self._how_much(sentence, clause, cylinders):
            return
        none = clause.of("none") and not clause.of("value")
        if none and self._none_of_it(sentence, clause, cylinders):
            return
        self._words_of(sentence, clause, cylinders)
        parts = [part for _, part in self._parts_in(sentence, clause)]
        # One's strap and centre are square: what is named and said nothing of waits for it.
        self.open_parts = [] if clause.speaks else [*self.open_parts, *parts]
        if parts:
            self.line_part = self.part = self._own_part(parts[-1])
            self.stale = False

    def _says_nothing_here(self, sentence: Sentence, clause: Clause) -> bool:
        """Whether a clause is of a part that is not ours, of a plan, or of what should be."""
        texts = sentence.texts[clause.items[0].start : clause.items[-1].end]
        moods = self.grammar.moods
        elsewhere = moods["plan"].anywhere(texts) or moods["reference"].anywhere(texts)
        return bool(clause.of("strange") or clause.lost or elsewhere)

    def _words_of(self, sentence: Sentence, clause: Clause, cylinders: Cylinders) -> None:
        """Each word of a clause that means something, denied where it is."""
        denied_at: int | None = None
        denied_of: set[str] = set()
        for item in clause.items:
            if item.kind in ("deny", "none"):
                denied_at = item.end
            elif item.kind == "enough":
                denied_at = None
            if item.kind != "value":
                continue
            if clause.figures and self.grammar.measure_nouns.at(sentence.texts, item.start):
                continue  # Leaks nine percent.
            fields = {one.field for one in item.what}
            if denied_of & fields:
                continue  # No hiss at the intake.
            denied = denied_at is not None and item.start - denied_at <= LOOKED_BACK
            self._value(sentence, clause, item, cylinders, denied=denied)
            if sentence.texts[item.start] in self.reader.denials:
                denied_of |= fields
                denied_at = item.end if item.kind == "value" else denied_at

    def _how_much(self, sentence: Sentence, clause: Clause, cylinders: Cylinders) -> bool:
        """Water in two: a trace. It is water, just a trace."""
        words = self.grammar.raw["amounts"]["words"]
        start, end = clause.items[0].start, clause.items[-1].end
        texts = sentence.texts[start:end]
        found = self.grammar.amounts.anywhere(texts)
        last = self.last
        known = last.field if last is not None and last.part == "well" else ""
        if (
            last is None
            or found is None
            or known not in words
            or any(one in texts for one in words)
        ):
            return False
        others = [one for one in clause.of("value") if one.start - start not in range(*found[:2])]
        if others or clause.figures:
            return False
        word = words[known][found[2] == "high"]
        item = Item("value", start + found[0], start + found[1])
        self._say(sentence, item, replace(last, word=word), cylinders, CARRIED)
        clause.items.append(item)
        return True

    def _none_of_it(self, sentence: Sentence, clause: Clause, cylinders: Cylinders) -> bool:
        """Two has none: of what was spoken of last."""
        word = self.grammar.raw["denied"].get(self.last.field) if self.last else None
        if self.last is None or word is None:
            return False
        self._say(sentence, clause.of("none")[0], replace(self.last, word=word), cylinders, CARRIED)
        return True

    def _parts_in(self, sentence: Sentence, clause: Clause) -> list[tuple[int, str]]:
        """Every noun of a part in a clause, also within a longer phrase."""
        texts, at, found = sentence.texts, clause.items[0].start, []
        while at < clause.items[-1].end:
            hit = self.grammar.parts.at(texts, at)
            if hit and not (at and texts[at - 1] in self.grammar.whom["as_one"]):  # As well.
                found.append((at, self._own_part(hit[1])))
            at = hit[0] if hit else at + 1
        return found

    def _value(
        self,
        sentence: Sentence,
        clause: Clause,
        item: Item,
        cylinders: Cylinders,
        *,
        denied: bool,
    ) -> None:
        parts = self._parts_in(sentence, clause)
        meant, sure = self._meant(clause, item, parts)
        if clause.joined and parts:
            waiting = [self._of_part(item.what, one) for one in self.open_parts]
            meant = [*meant, *(one for several in waiting for one in several if one not in meant)]
        for meaning in meant:
            word: str | None = meaning.word
            if denied:
                word = self.grammar.raw["denied"].get(meaning.field)
            if word is None:
                item.what = ()
                continue
            if meaning.field == "look" and not self._plainly(clause, item):
                continue
            if not self._complains(sentence, clause, meaning):
                continue
            sure = min(sure, self._sure(sentence, item.start, item.end))
            whom = self._unsaid(meaning) if clause.rest else ()
            self._say(sentence, item, replace(meaning, word=word), whom or cylinders, sure)

    def _plainly(self, clause: Clause, item: Item) -> bool:
        """Whether nothing else is said beside it: a good firm crack is not a good plug."""
        others = [one for one in clause.of("value", "said") if one is not item]
        if self.line_part not in (None, "plug"):
            return False
        return not others and len(clause.of("word")) <= 2

    def _begin_again(self) -> None:
        """With oil it is another test: what was read dry stands, and is not contradicted."""
        for path in [one for one in self.known if one.startswith("/tests/compression/0/readings/")]:
            del self.known[path]

    def _meant(
        self, clause: Clause, item: Item, parts: Sequence[tuple[int, str]]
    ) -> tuple[list[Meaning], float]:
        """Which of a phrase's meanings it has here, and how sure that is."""
        before = [part for start, part in parts if start < item.end]
        after = [part for start, part in parts if start >= item.end]
        for part in (*before[-1:], *after[:1]):
            found = self._of_part(item.what, part)
            if found:
                return found, SURE
        outside = [part for start, part in parts if not item.start <= start < item.end]
        if outside and self._blocks(outside[-1]):
            return [], SURE
        if self.line_part and (found := self._of_part(item.what, self.line_part)):
            return found, CARRIED
        if self.line_part and self._blocks(self.line_part) and not clause.who:
            return [], SURE
        if self.part and not self.stale and (found := self._of_part(item.what, self.part)):
            return found, GUESSED
        for place, part in enumerate(self.grammar.raw["rounds"][self.round]):
            found = self._of_part(item.what, part)
            if found:
                return found, CARRIED if not place else GUESSED
        if self.part and (found := self._of_part(item.what, self.part)):
            return found, GUESSED  # One and two strong too.
        own = {one.part for one in item.what}
        if len(own) == 1 and item.end - item.start > 1:
            return self._of_part(item.what, own.pop()), GUESSED
        return [], SURE

    def _blocks(self, part: str) -> bool:
        return part not in (
            "plug",
            "gap",
            "deposit",
            "electrodes",
            "ground",
            "centre",
            "insulator",
            "well",
        )

    def _of_part(self, meanings: Sequence[Meaning], part: str) -> list[Meaning]:
        if part == "electrodes":
            both = {one.part: one for one in meanings if one.part in ("ground", "centre")}
            return list(both.values())
        if part == "deposit":
            return [
                one for one in meanings if one.part == "plug" and one.field.startswith("deposit")
            ][:1]
        unsaid = self.grammar.raw["unsaid"]
        own = [one for one in meanings if one.part == part]
        own = [one for one in own if self.round not in unsaid.get(one.field, ())]
        if part == "well":  # Dry of oil, and of water.
            return list({one.field: one for one in reversed(own)}.values())
        return own[:1]

    def _complains(self, sentence: Sentence, clause: Clause, meaning: Meaning) -> bool:
        """Whether a complaint is meant: of the engine; and when, beside one."""
        if meaning.part != "complaints":
            return True
        if meaning.field == "complaint_when":
            return self.last is not None and self.last.part == "complaints"
        if self.round in ("plan", "running"):
            return True
        said = sentence.texts[
            clause.items[0].start - 2 if clause.items[0].start > 1 else 0 : clause.items[-1].end
        ]
        return not {*self.grammar.raw["subjects"]["words"]}.isdisjoint(said)

    def _unsaid(self, meaning: Meaning) -> Cylinders:
        """Those of whom nothing of this kind was said yet."""
        place = self._place(meaning)
        known = {one for one in self.whose.order if place in self._spoken.get(one, {})}
        return tuple(one for one in self.whose.order if one not in known | {*self.whose.before})

    def _say(
        self,
        sentence: Sentence,
        item: Item,
        meaning: Meaning,
        cylinders: Cylinders,
        sure: float,
    ) -> None:
        place = self._place(meaning)
        value: Any = meaning.word
        if self.grammar.flag(meaning.field):
            value = meaning.word == "yes"
        if self.grammar.lists(meaning):
            value = [value]
        words = self._words(sentence, item.start, item.end)
        if "{n}" in place and not cylinders:
            return
        item.kind = "said"
        self.last = meaning
        self._record(place, value, cylinders, words, sure)

    def _record(
        self, place: str, value: Any, cylinders: Cylinders, words: str, sure: float
    ) -> None:
        if place.endswith("/kind") and value == "wet":
            self._begin_again()
        uttered = object()
        for path in self._paths(place, cylinders):
            self.draft.put(Proposal(path, value, words, sure))
            self.uttered[path] = uttered
        for one in cylinders if "{n}" in place else ():
            self.origin[place.replace("{n}", str(one))] = (place, one)

    def _paths(self, place: str, cylinders: Cylinders) -> list[str]:
        if "{n}" not in place:
            return [place]
        return [place.replace("{n}", str(one)) for one in cylinders]

    def _place(self, meaning: Meaning) -> str:
        places = self.grammar.raw["places"]
        name = f"{meaning.part}.{meaning.field}"
        place = str(places.get(name, f"/cylinders/{{n}}/plug/{meaning.field}"))
        if self.round == "leakdown":
            return place.replace("/tests/compression/0/engine", "/tests/leakdown/0/engine")
        return place

    def _sure(self, sentence: Sentence, start: int, end: int) -> float:
        hedged = sentence.asks or self.grammar.hedges.anywhere(sentence.texts)
        return HEDGED if hedged else SURE

    def _words(self, sentence: Sentence, start: int, end: int) -> str:
        tokens = sentence.tokens
        return self.draft.line[tokens[start].start : tokens[end - 1].end]

    def _same(self, sentence: Sentence, clause: Clause, cylinders: Cylinders) -> bool:
        """Two, ditto: what was said of the last is said of these as well."""
        if clause.of("value") or clause.figures:
            return False
        models = clause.model or self.whose.before
        if not clause.who and not clause.model:
            cylinders = self.whose.following() if not self.said else cylinders
            models = self.whose.last
            self.whose.name(cylinders)
        places = self._known_of(models)
        measured = [one.what for one in clause.of("measure", "part")]
        if "gap" in measured:
            places = {place: one for place, one in places.items() if place.endswith("gap")}
        words = self._words(sentence, clause.items[0].start, clause.items[-1].end)
        for place, value in places.items():
            self._record(place, value, cylinders, words, CARRIED)
        for item in clause.items if places else ():
            item.kind = "said"
        return bool(places)

    def _known_of(self, models: Cylinders) -> dict[str, Any]:
        """What was said of a cylinder before, by place."""
        if not models:
            return {}
        now = {place: self.draft.found[path].value for path, (place, one) in self.origin.items()
               if one == models[0] and path in self.draft.found}  # fmt: skip
        return dict(self._visits.get(models[0], {})) | now

    def _figures_of(self, sentence: Sentence, clause: Clause, cylinders: Cylinders) -> None:
        if not clause.figures:
            return
        alone = len(clause.figures)
        if not cylinders or self._is_next(clause, cylinders):
            cylinders = self._in_turn(clause)
        for at, (item, number) in enumerate(clause.figures):
            if any(0 <= item.start - one.end <= 1 for one in clause.of("deny")):
                self.draft.corrects = True
                continue  # Not point nine.
            unit = self._unit_behind(clause, item)
            measured = self._measured(clause, unit)
            whom = (cylinders[at],) if alone == len(cylinders) > 1 else cylinders
            words = self._words(sentence, *self._with_its_noun(clause, item))
            sure = self._sure(sentence, item.start, item.end)
            found = self.figures.take(measured, number, unit, sure)
            if found.question:
                for path in self._paths(found.place, whom)[:1] or [found.place]:
                    self.draft.ask(found.question, path, found.value)
                item.kind = "said"
                continue
            if found.place and (whom or "{n}" not in found.place):
                item.kind = "said"
                self._record(found.place, found.value, whom, words, found.sure)
                for said, place in (measured.measure.also if measured.measure else {}).items():
                    if said in sentence.texts:
                        self._record(place, True, whom, words, found.sure)

    def _is_next(self, clause: Clause, cylinders: Cylinders) -> bool:
        """Whether a bare figure is the next one's, because the last has its own already."""
        measure = self._measured(clause, None).measure
        bare = not clause.who and not self.said and len(clause.items) == 1 and self.alone
        known = self._spoken.get(cylinders[0], {}) if len(cylinders) == 1 else {}
        return bool(bare and measure and measure.place in known and self.whose.count > 1)

    def _in_turn(self, clause: Clause) -> Cylinders:
        """Whose figures are that name nobody: everybody's in order, or the next one's."""
        everybody = self.whose.everybody()
        if len(clause.figures) == len(everybody):
            return everybody
        if len(clause.figures) > 1 or not self.figures.round_measures():
            return self.whose.last
        whose = self.whose.following() if self.whose.last else everybody[:1]
        if whose:
            self._speak_of(whose)
        return whose or self.whose.last

    def _with_its_noun(self, clause: Clause, item: Item) -> tuple[int, int]:
        """Where the words of a figure begin and end, its noun and its unit included."""
        before = [one for one in clause.of("part", "measure") if one.end == item.start]
        behind = [one for one in clause.of("unit") if one.start == item.end]
        return (before[0].start if before else item.start, behind[0].end if behind else item.end)

    def _unit_behind(self, clause: Clause, item: Item) -> str | None:
        later = [one for one in clause.of("unit") if one.start >= item.end]
        return later[0].what if later else None

    def _of_all(self, sentence: Sentence, clause: Clause) -> bool:
        """Whether a plural is said of which each has one: boots greased, coils on."""
        whom = self.grammar.whom
        plurals = {*whom["plurals"]}
        if self.round == "fitting":
            plurals |= {*whom["plurals_of_the_new"]}
        said = sentence.texts[clause.items[0].start : clause.items[-1].end]
        return not self.said and not plurals.isdisjoint(said)

    def _speak_of(self, cylinders: Cylinders) -> None:
        if cylinders and cylinders != self.whose.last:
            for one in cylinders:
                self._visits[one] = {}
            self.stale = True
        self.whose.name(cylinders)

    def _own_part(self, part: str) -> str:
        there = self.grammar.raw["parts_in"].get(self.round, {})
        if part in there:
            return str(there[part])
        if part in self.grammar.raw["parts_of"] and not self.has_distributor:
            return str(self.grammar.raw["parts_of"][part])
        return part
