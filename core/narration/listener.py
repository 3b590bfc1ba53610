"""From a line of plain trade English to proposed observations.

A line falls into sentences and these into clauses (clauses.py). Each clause gets whom it speaks of,
of which part, and what is said (meanings.py): words that mean something of that part, figures of
what is measured. What was said before is context. Nothing is guessed: what no table takes is handed
back.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from itertools import pairwise
from typing import Any

from core.document.observations import unfold
from core.language import say
from core.narration.clauses import Clause
from core.narration.figures import Figures
from core.narration.grammar import Meaning, grammar
from core.narration.line import Draft, Heard, Proposal, told
from core.narration.meanings import CARRIED, GUESSED, HEDGED, SURE, Meanings
from core.narration.patterns import Found, patterns
from core.narration.reading import Reader, Sentence, sentences_of
from core.narration.tokens import tokens_of
from core.narration.whose import Cylinders, Whose

KINDS = {SURE: "named", 0.96: "in_force", CARRIED: "carried", GUESSED: "guessed", HEDGED: "hedged"}


class Listener(Meanings):
    """Hears lines in order and keeps what they were about.

    Parameters
    ----------
    document : dict, optional
        A checked document: how many cylinders there are, and what stands there already.
    round_ : str, optional
        Where in the round the speaker is: a `SpokenRound`.
    """

    def __init__(
        self, document: Mapping[str, Any] | None = None, round_: str | None = None
    ) -> None:
        self.grammar = grammar()
        self.round = round_ or "any"
        self.whose = Whose(document, self.grammar)
        self.reader = Reader(self.grammar, self.whose.groups, self.round)
        self.figures = Figures(self.grammar, document, self.round)
        self.known: dict[str, Any] = _by_path(document) if document else {}
        self.has_distributor = document is None or _distributor(document["engine"])
        self.part: str | None = None
        self.stale = False
        self._spoken: dict[int, dict[str, Any]] = {}
        self.origin: dict[str, tuple[str, int]] = {}  # Of which place of whom a path is.
        self._visits: dict[int, dict[str, Any]] = {}  # Since somebody was named last.
        self.uttered: dict[str, object] = {}  # By path, the one time that it was said.
        self.added = _after(self.known, ("/work/", "/refit/repairs/"))
        self.swaps = _after(self.known, ("/tests/swap/",))
        self.last: Meaning | None = None
        self.draft = Draft("")

    @property
    def cylinder(self) -> int | None:
        return self.whose.last[0] if len(self.whose.last) == 1 else None

    @cylinder.setter
    def cylinder(self, number: int | None) -> None:
        self.whose.last = (number,) if number else ()

    def hear(self, line: str) -> Heard:
        """Propose what a line says; the same lines in the same order give the same answer."""
        self.draft = draft = Draft(line)
        self.asked: Sentence | None = None
        self.said: list[int] = []
        self.within: Cylinders = ()
        self.line_part: str | None = None
        self.open_parts: list[str] = []
        self.figures.opens(line)
        self.whose.opens()
        sentences = sentences_of(tokens_of(line, self.grammar.spellings))
        self.alone = len(sentences) == 1
        self.figures.hears([one.texts for one in sentences])
        for sentence in sentences:
            self._sentence(sentence)
        if not draft.corrects:
            self._contradictions()
        return self._answer()

    def _sentence(self, sentence: Sentence) -> None:
        texts = sentence.texts
        moods = self.grammar.moods
        strange = self.reader.strange.anywhere(texts)
        if strange is not None:
            sentence = self._before_the_strange(sentence, strange[0])
            if not sentence.tokens:
                return
            texts = sentence.texts
        if moods["corrects"].anywhere(texts):
            self.draft.corrects = True
        if moods["undone"].anywhere(texts):
            self._undo()
            self._leave(sentence)
            return
        which = moods["which"].anywhere(texts)
        every = self.grammar.whom["every_one"]
        if which is not None and not (which[0] and texts[which[0] - 1] in every):
            self.draft.ask(say("Which one?"), "/")
            self._leave(sentence)
            return
        asks = self._asks(sentence)
        if self.asked is not None and self._answered(sentence):
            return
        self.asked = sentence if asks else None
        refers = moods["reference"].at(texts, 0) or moods["reference"].at(
            texts, min(1, len(texts) - 1)
        )
        if asks or refers or moods["other"].anywhere(texts) or moods["plan"].at(texts, 0):
            if asks:
                self._topic(sentence)
            self._leave(sentence)
            return
        self._states(sentence)

    def _states(self, sentence: Sentence) -> None:
        """A sentence that says something of this engine."""
        kept = self._patterns(sentence)
        self.reader.read(sentence, self._parts_here())
        clauses = self._clauses(sentence)
        self._whom(sentence, clauses)
        self._as_patterns_say(sentence, kept, clauses)
        self._one_each(clauses)
        if self._open(sentence, clauses):
            self.draft.ask(say("Which of the two?"), "/")
            self._leave(sentence)
            return
        for clause in clauses:
            self._clause(sentence, clause)
            self._figures_of(sentence, clause, clause.who or self.whose.last)
        self._left_over(sentence, clauses)

    def _before_the_strange(self, sentence: Sentence, at: int) -> Sentence:
        """What is said before a part that is not ours; the rest is handed back."""
        stops = [n for n in range(at) if sentence.texts[n] == ","]
        cut = stops[-1] if stops else 0
        self.draft.left.append(self._words(sentence, cut + bool(stops), len(sentence.tokens)))
        return Sentence(sentence.tokens[:cut], sentence.asks)

    def _asks(self, sentence: Sentence) -> bool:
        """Whether somebody asks; I think it is brown? says so, and not for sure."""
        texts = sentence.texts
        if self.grammar.moods["asks"].at(texts, 0):
            return True
        clauses = [at + 1 for at, text in enumerate(texts) if text == ","]
        if any(self.grammar.moods["asks"].at(texts, at) for at in clauses if at < len(texts)):
            return True
        return sentence.asks and len(texts) < 4 and not self.grammar.hedges.anywhere(texts)

    def _open(self, sentence: Sentence, clauses: Sequence[Clause]) -> bool:
        """Oil or water, could be either: what is left open is asked."""
        texts, table = sentence.texts, self.grammar.raw["open"]
        left_open = {*table["between"]}
        values = [one for clause in clauses for one in clause.of("value")]
        for first, second in pairwise(values):
            between = texts[first.end : second.start]
            if not left_open.isdisjoint(between) and not self._denied_before(texts, first.start):
                return True
        return any(texts.count(one) > 1 for one in table["twice"])

    def _denied_before(self, texts: Sequence[str], at: int) -> bool:
        return any(one in self.reader.denials for one in texts[max(at - 3, 0) : at + 1])

    def _answered(self, sentence: Sentence) -> bool:
        """Whether a sentence says yes to what was asked: then that is so, and perhaps more."""
        asked, self.asked = self.asked, None
        moods = self.grammar.moods
        yes = moods["yes"].at(sentence.texts, 0)
        if asked is None or yes is None:
            return False
        asked.asks = False
        asked.items = []
        first = moods["asks"].at(asked.texts, 0)
        if first is None or asked.texts[0] in self.grammar.raw["moods"]["inverted"]:
            self.draft.left = [one for one in self.draft.left if one != self._whole(asked)]
            self._states(asked)
        rest = Sentence(sentence.tokens[yes[0] :], asks=False)
        if rest.tokens:
            self._states(rest)
        return True

    def _whole(self, sentence: Sentence) -> str:
        return self._words(sentence, 0, len(sentence.tokens))

    def _topic(self, sentence: Sentence) -> None:
        """What a question is about is what the answer behind it speaks of."""
        self.reader.read(sentence, self._parts_here())
        clauses = self._clauses(sentence)
        self._whom(sentence, clauses)
        for clause in clauses:
            if clause.who:
                self._speak_of(clause.who)
            for part in clause.of("part"):
                self.line_part = self._own_part(part.what)

    def _parts_here(self) -> set[str]:
        """Of which parts something may be said that names none."""
        here = {*self.grammar.raw["rounds"][self.round]}
        return here | {one for one in (self.part, self.line_part) if one}

    def _undo(self) -> None:
        self.draft.found.clear()

    def _leave(self, sentence: Sentence) -> None:
        self.draft.left.append(self._words(sentence, 0, len(sentence.tokens)))

    def _patterns(self, sentence: Sentence) -> list[Found]:
        """Whole sentences that mean something of their own; what they took is taken."""
        kept = []
        for found in patterns().read(sentence.texts, self.round, self.figures.units):
            if sentence.taken & set(range(found.start, found.end)):
                continue
            if not all(self.whose.is_cylinder(one) for one in found.names):
                continue
            kept.append(found)
            if found.takes:
                sentence.taken |= set(range(found.start, found.end))
        return kept

    def _as_patterns_say(
        self, sentence: Sentence, kept: Sequence[Found], clauses: Sequence[Clause]
    ) -> None:
        for found in kept:
            cylinders = tuple(int(one) for one in found.names) or self._around(found, clauses)
            words = self._words(sentence, found.start, found.end)
            said = sentence.texts[found.start : found.end]
            every = {*self.grammar.whom["each"], *self.grammar.whom["all"]}
            if not found.names and not every.isdisjoint(said):
                cylinders = self.whose.everybody()
            for at in range(len(said)):
                if hit := self.grammar.parts.at(said, at):
                    self.line_part = self._own_part(hit[1])
            sure = self._sure(sentence, found.start, found.end)
            self.added += any("/+/" in place for place, _ in found.facts)
            self.swaps += any(place.endswith("/=/part") for place, _ in found.facts)
            for place, value in found.facts:
                if "/=/" in place and not self.swaps:
                    continue  # Of a swap that nobody told of.
                place = place.replace("/=/", f"/{max(self.swaps - 1, 0)}/")
                if self.round == "leakdown":
                    place = place.replace("/compression/0/engine", "/leakdown/0/engine")
                if place.endswith("/held"):
                    self.figures.recent = "held"
                if "/+/" in place and isinstance(value, list) and "cylinders" not in place:
                    self._added(place, value, words, sure)
                else:
                    place = place.replace("/+/", f"/{self.added - 1}/")
                    self._record(place, value, cylinders, words, sure)
            if found.names:
                self._speak_of(cylinders)

    def _added(self, place: str, several: Sequence[Any], words: str, sure: float) -> None:
        for value in several:
            self._record(place.replace("/+/", f"/{self.added - 1}/"), value, (), words, sure)
            self.added += 1

    def _around(self, found: Found, clauses: Sequence[Clause]) -> Cylinders:
        """Whom a pattern that names nobody is of: who is named before it, or else behind it."""
        named = [one for one in clauses if one.who]
        before = [one for one in named if one.items[0].start < found.start]
        if named:
            return (before[-1] if before else named[0]).who
        return self.whose.last or (self.whose.everybody() if self.round == "fitting" else ())

    def _left_over(self, sentence: Sentence, clauses: Sequence[Clause]) -> None:
        """What no table took, clause by clause, in the line's own words."""
        for clause in clauses:
            strange = clause.of("strange")
            open_ = clause.of("value", "figure", "word", "same")
            said = clause.of("said")
            if strange or (open_ and not said):
                self.draft.left.append(
                    self._words(sentence, clause.items[0].start, clause.items[-1].end)
                )

    def _contradictions(self) -> None:
        for path, proposal in list(self.draft.found.items()):
            before = self.known.get(path)
            if before is None or before == proposal.value or isinstance(before, list):
                continue
            if path.startswith("/tests/compression/0/") and "/readings/" not in path:
                continue
            if path.startswith(("/proof", "/refit/tools", "/inspection")) or before is False:
                continue
            text = say(
                "{before} was recorded here, now {now}: which?",
                before=told(before),
                now=told(proposal.value),
            )
            self.draft.ask(text, path, proposal.value)
            del self.draft.found[path]

    def _answer(self) -> Heard:
        draft = self.draft
        for path in [one for one in draft.found if one.endswith("/rpm_drop")]:
            draft.found.pop(path.replace("rpm_drop", "felt"), None)  # The figure says it already.
        found = [one for path, one in draft.found.items() if path not in draft.questions]
        fresh = [self._weighed(one) for one in found if not self._stands(one)]
        for one in fresh:
            old = self.known.get(one.path)
            lists = isinstance(one.value, list) and isinstance(old, list)
            self.known[one.path] = [*old, *one.value] if lists and old else one.value
        for one in found:
            self._remember(one)
        return Heard(
            line=draft.line,
            cylinder=self.cylinder if found or draft.questions else None,
            proposals=tuple(fresh),
            not_understood=tuple(dict.fromkeys(draft.left)),
            questions=tuple(draft.questions.values()),
        )

    def _weighed(self, one: Proposal) -> Proposal:
        """A proposal with how often the like of it is right."""
        table = self.grammar.raw["confidence"]
        figures = {
            path for path, other in self.draft.found.items() if isinstance(other.value, dict)
        }
        words = len(self.draft.line.split()) / max(len(figures), 1)  # A list is long, and plain.
        length = 0 if words <= table["short"] else 1 if words <= table["medium"] else 2
        same = [other for other in self.draft.found.values() if self._alike(one, other)]
        kind = KINDS[one.confidence]
        if kind in ("named", "carried") and (len(same) > 1 or not (self.said or kind == "named")):
            kind = "of_several"
        sure = table[kind][length]
        sure *= table["left_over"] if self.draft.left else 1.0
        sure *= table["asked"] if self.draft.questions else 1.0
        return replace(one, confidence=round(sure, 3), of_several=len(same) > 1)

    def _alike(self, one: Proposal, other: Proposal) -> bool:
        """Whether two were said of two cylinders at once."""
        return self.uttered.get(one.path, one.path) is self.uttered.get(other.path, other.path)

    def _remember(self, said: Proposal) -> None:
        place, cylinder = self.origin.get(said.path, ("", 0))
        if place:
            for kept in (self._spoken, self._visits):
                kept.setdefault(cylinder, {})[place] = said.value

    def _stands(self, one: Proposal) -> bool:
        """Whether what is proposed stands already."""
        known = self.known.get(one.path)
        if isinstance(one.value, list) and isinstance(known, list):
            return all(str(value) in {*map(str, known)} for value in one.value)
        return bool(known == one.value)


def _distributor(engine: Mapping[str, Any]) -> bool:
    usual = "distributor" if engine["cylinders"] >= 4 else ""
    return bool(engine.get("ignition", usual) == "distributor")


def _by_path(document: Mapping[str, Any]) -> dict[str, Any]:
    """What stands in a document by the paths that are proposed; tests by their place."""
    found = dict(unfold(dict(document)))
    for kind in ("compression", "leakdown"):
        for at, test in enumerate(document.get("tests", {}).get(kind, [])):
            start = f"/tests/{kind}/{test.get('id', at)}/"
            for path in [one for one in found if one.startswith(start)]:
                found[f"/tests/{kind}/{at}/{path[len(start) :]}"] = found[path]
    return found


def _after(known: Mapping[str, Any], lists: tuple[str, ...]) -> int:
    """The first number that no item of some lists has for its name."""
    items = (path.split("/") for path in known if path.startswith(lists))
    names = {steps[3] for steps in items if len(steps) > 4}
    return max((int(one) + 1 for one in names if one.isdigit()), default=0)
