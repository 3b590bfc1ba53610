"""A sentence as its items: whom, parts, words that mean something, figures, what denies or hedges.

What an item means is not decided here; only what it can be. The longest phrase wins, and what is
skipped in a phrase (an article, a filler) is skipped in the sentence.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from core.narration.grammar import Grammar, Meaning, Phrases, stem
from core.narration.numbers import JOINS, UNITS, run_at
from core.narration.tokens import ENDS, Token, written


@dataclass
class Item:
    """Something in a sentence: the tokens it takes, and what it can be.

    `kind` is "stop", "who", "run" (of number words), "figure", "unit", "part", "value", "measure",
    "deny", "none", "enough", "hedge", "same", "except", "strange" or "word"; "said", once it was.
    """

    kind: str
    start: int
    end: int
    what: Any = None
    marked: bool = False  # A run behind "number"; a name behind "on".


@dataclass
class Sentence:
    """The tokens of one sentence, and its items in order."""

    tokens: list[Token]
    asks: bool
    sure: float = 1.0
    items: list[Item] = field(default_factory=list)
    taken: set[int] = field(default_factory=set)

    @property
    def texts(self) -> list[str]:
        return [one.text for one in self.tokens]


def sentences_of(tokens: Sequence[Token]) -> list[Sentence]:
    """A line's sentences; one that ends with a question mark asks."""
    found: list[Sentence] = []
    own: list[Token] = []
    for token in tokens:
        if token.text in (*ENDS, "?"):
            if own:
                found.append(Sentence(own, asks=token.text == "?"))
            own = []
        else:
            own.append(token)
    if own:
        found.append(Sentence(own, asks=False))
    return found


class Reader:
    """Finds the items of sentences.

    Parameters
    ----------
    grammar : Grammar
    groups : dict of str to tuple of int
        What cylinders together are called on this engine: its banks.
    """

    def __init__(
        self, grammar: Grammar, groups: dict[str, tuple[int, ...]], round_: str = "any"
    ) -> None:
        self.grammar = grammar
        self.strange = grammar.strange_in(round_)
        self.breaks = frozenset(grammar.raw["breaks"]["words"])
        self.soft = frozenset(grammar.raw["breaks"]["soft"])
        self.none = frozenset(grammar.raw["denials"]["none"])
        whom = grammar.whom
        names: list[tuple[str, Any]] = [(name, ("group", group)) for name, group in groups.items()]
        for what in (
            "all",
            "odd",
            "even",
            "each",
            "both",
            "rest",
            "other",
            "next",
            "first",
            "last",
        ):
            names += [(one, (what, None)) for one in whom[what]]
        names += [(one, ("ordinal", at)) for at, one in enumerate(whom["ordinals"], start=1)]
        self.names = Phrases.of(names)
        self.same = Phrases.of([(one, "same") for one in whom["same"]])
        self.excepting = Phrases.of([(one, "except") for one in whom["except"] if one != "not"])
        self.compares = Phrases.of([(one, "compares") for one in whom["compares"]])
        self._unmistakable = {*grammar.raw["unmistakable"]["parts"]}
        self.counted = frozenset(grammar.raw["figures"]["of_other"])
        self.other = frozenset(whom["not_same"])
        self.refers = frozenset(whom["same_one"])
        self.denials = frozenset(grammar.raw["denials"]["words"])
        self.ends = frozenset(grammar.raw["denials"]["ends"])
        self.markers = frozenset(whom["markers"])
        self.near = frozenset(whom["near"])

    def read(self, sentence: Sentence, parts: set[str]) -> None:
        """Fill in the items of a sentence, but for what is taken already.

        `parts` are those that something may be said of here, beside those that it names.
        """
        texts, at = sentence.texts, 0
        self._parts = parts | self._nouns(texts)
        shown = [n for n, text in enumerate(texts) if text not in self.grammar.skips]
        self._place = {n: place for place, n in enumerate(shown)}
        self._shown = shown
        self._reduced = [stem(texts[n]) for n in shown]
        if len(texts) > 2 and texts[0] in self.grammar.raw["breaks"]["opens"]:
            at = 1  # Okay, number one.
        while at < len(texts):
            item = self._item(sentence, texts, at)
            if item is not None:
                sentence.items.append(item)
            at = item.end if item is not None else at + 1

    def _item(self, sentence: Sentence, texts: Sequence[str], at: int) -> Item | None:
        if at in sentence.taken:
            return None
        if texts[at] in self.breaks and not self._within_a_figure(texts, at):
            return Item("stop", at, at + 1, texts[at])
        run = self._run(sentence, texts, at)
        named = self._named(texts, at)
        found = [one for one in (*self._phrases(texts, at), named) if one is not None]
        found = [one for one in found if not sentence.taken & set(range(one.start, one.end))]
        if run is not None:
            longer = [one for one in found if one.end > run.end and one.kind in ("who", "value")]
            return longer[0] if longer else run
        if found:
            return max(found, key=lambda one: (one.end, _RANK[one.kind]))
        if texts[at] in self.grammar.whom["group_nouns"]:
            return Item("strange", at, at + 1)  # Of a bank that nobody knows.
        if texts[at] in self.ends:
            return Item("enough", at, at + 1)
        if texts[at] in self.none:
            return Item("none", at, at + 1)
        if texts[at] in self.denials:
            return Item("deny", at, at + 1)
        return Item("word", at, at + 1, texts[at]) if texts[at] not in self.grammar.skips else None

    def _within_a_figure(self, texts: Sequence[str], at: int) -> bool:
        return texts[at] in JOINS and at > 0 and run_at(texts, max(at - 2, 0)) > at + 1

    def _run(self, sentence: Sentence, texts: Sequence[str], at: int) -> Item | None:
        end = run_at(texts, at)
        by_ear = self.grammar.whom["heard_after_a_marker"]
        marked = bool(at) and texts[at - 1] in self.markers
        if end == at and marked and texts[at] in by_ear and run_at(texts, at + 1) == at + 1:
            return Item("run", at, at + 1, (str(by_ear[texts[at]]),), marked=True)
        if end - at == 1 and UNITS.get(texts[at]) == 1 and not self._names_one(sentence, texts, at):
            return None
        free = next((n for n in range(at, end) if n in sentence.taken), end)
        own = next((n + 1 for n in range(at, free) if sentence.tokens[n].own), free)
        end = min(free, own)
        if end == at or (end < len(texts) and texts[end] in self.counted):
            return None
        if end - at > MOST_OF_A_RUN:
            return Item("word", at, end)  # Nobody reads out so many at once.
        if (paired := self._paired(texts, at, end)) is not None:
            end = paired  # 1 150 2 148.
        before = texts[at - 1] if at else ""
        counted = at > 1 and self.names.at(texts, at - 2) is not None  # First cylinder, ten.
        return Item("run", at, end, tuple(texts[at:end]), before in self.markers and not counted)

    def _paired(self, texts: Sequence[str], at: int, end: int) -> int | None:
        """Where the first pair of a row of pairs ends: a small figure before each."""
        figures = [written(one) for one in texts[at:end]]
        if len(figures) < 4 or len(figures) % 2 or None in figures:
            return None
        names, values = figures[::2], figures[1::2]
        small = max(one or 0 for one in names) < min(one or 0 for one in values)
        return at + 2 if small and names == sorted(set(names), key=float) else None  # type: ignore[arg-type]

    def _names_one(self, sentence: Sentence, texts: Sequence[str], at: int) -> bool:
        """Whether "one" is a number: not the bad one, not one of them."""
        before = texts[at - 1] if at else ","
        behind = texts[at + 1] if at + 1 < len(texts) else ""
        whom = self.grammar.whom
        last = sentence.items[-1] if sentence.items else None
        if sentence.tokens[at].own:
            return True
        looks = last is not None and last.kind == "value" and last.what[0].part == "plug"
        if last is not None and last.end == at and (looks or last.kind == "who"):
            return False  # The brown one, the fourth one.
        return before not in whom["not_before_one"] and behind not in whom["not_behind_one"]

    def _named(self, texts: Sequence[str], at: int) -> Item | None:
        found = self.names.at(texts, at)
        if found is None or self._compared(texts, at):
            return None
        end, (kind, what) = found
        behind = texts[end] if end < len(texts) else ""
        if kind == "ordinal" and behind in self.grammar.whom["not_ordinal"]:
            return None
        if kind == "all" and (
            behind in self.grammar.whom["not_behind_all"] or texts[at - 1 : at] == ["at"]
        ):
            return None
        part = self.grammar.parts.at(texts, end) if behind else None
        if kind == "both" and part is not None and part[1] in ("electrodes", "ground", "centre"):
            return None
        if kind == "other":
            if run_at(texts, end) == end:
                return None
            kind = "rest"
        return Item("who", at, end, (kind, what), bool(at) and texts[at - 1] in self.near)

    def _compared(self, texts: Sequence[str], at: int) -> bool:
        """Whether somebody is named to compare with: thinner than the others."""
        return any(
            (hit := self.compares.at(texts, start)) and hit[0] <= at
            for start in range(max(at - 3, 0), at)
        )

    def _phrases(self, texts: Sequence[str], at: int) -> list[Item | None]:
        grammar = self.grammar
        behind = texts[at + 1 : at + 2]
        as_one = texts[at] in grammar.whom["as_one"] and behind and run_at(behind, 0)
        found: list[Item | None] = [Item("same", at, at + 1, "same")] if as_one else []
        plain = (
            ("strange", self.strange),
            ("part", grammar.parts),
            ("measure", grammar.measure_nouns),
            ("unit", grammar.units),
            ("hedge", grammar.hedges),
            ("deny", grammar.denials),
            ("same", self.same),
            ("except", self.excepting),
        )
        for kind, table in plain:
            if hit := table.at(texts, at):
                if kind == "same" and texts[hit[0] : hit[0] + 1] and texts[hit[0]] in self.other:
                    continue
                found.append(Item(kind, at, hit[0], hit[1]))
        if at in self._place:
            place = self._place[at]
            hits = [hit for hit in self.grammar.phrases.every(self._reduced, place)
                    if not self._divided(texts, at, hit[0])]  # fmt: skip
            here = [hit for hit in hits if any(one.part in self._parts for one in hit[1])]
            alone = [hit for hit in hits if hit[0] - place > 1 and self._unmistaken(hit[1])]
            if chosen := here or alone:
                found.append(Item("value", at, self._shown[chosen[0][0] - 1] + 1, chosen[0][1]))
        return found

    def _divided(self, texts: Sequence[str], at: int, end: int) -> bool:
        """Whether a stop stands within a phrase."""
        within = texts[at : self._shown[end - 1] + 1]
        return any(one in self.breaks and one not in JOINS for one in within)

    def _unmistaken(self, meanings: Sequence[Meaning]) -> bool:
        parts = {one.part for one in meanings}
        return len(parts) == 1 and parts <= self._unmistakable

    def _nouns(self, texts: Sequence[str]) -> set[str]:
        """The parts that a sentence names."""
        found = {hit[1] for at in range(len(texts)) if (hit := self.grammar.parts.at(texts, at))}
        means = self.grammar.raw["means"]
        return found | {part for one in found for part in means.get(one, ())}


MOST_OF_A_RUN = 24  # Figures one after the other, without a stop.
# Of several things that are as long, what a word is taken for.
_RANK = {
    "strange": 9, "unit": 8, "part": 7, "who": 6.5, "value": 6, "measure": 5, "except": 3,
    "same": 2, "hedge": 1, "deny": 0,
}  # fmt: skip
