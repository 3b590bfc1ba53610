"""Which cylinders a clause speaks of: by number, by their order, all of them, or the rest."""

from __future__ import annotations

from collections.abc import Sequence

from core.narration.lexicon import lexicon, longest_at
from core.narration.line import FIGURE_OF, QUANTITY_OF, Line, all_numbers, fits, value_of
from core.narration.numbers import is_number, number_at

OPENERS = ("and", "so", "ok", "okay", "right", "then", "now", "actually", "er", "um", "yeah",
           "yes", "correction", "wait", "no", "sorry", "next", "i", "mean", "meant", "hang", "hold",
           "on", "only", "just", "i'd", "say", "call", "think", "reckon", "looks", "like", "this",
           "that", "that's", "here", "here's", "is", "was", "it's", "can", "hear",
           "with")  # fmt: skip
NAMED = ("one", "plug", "cylinder", "hole")
MARKS = ("number", "cylinder", "cyl", "no", "hole", "#", "cylinders", "numbers")
FIGURES_IN = FIGURE_OF.keys() - {"faces"}  # Where a bare figure is what the round is about.
JOINS = ("and", "to", "through", "or", "as", "than", "like", "except", "but", "from")
NAMING = ("number", "cylinder", "cyl", "no", "#", "pull", "pulled", "cut", "kill", "killed",
          "short", "shorted", "unplug", "unplugged", "disconnect", "plug")  # fmt: skip
PLACES = ("on", "at", "in", "for", "of", "off", "from", "into", "down", "plug", "cutting",
          "killing", "shorting", "pulling", "pulled", "pull", "cut", "kill", "killed", "short",
          "shorted", "unplug", "disconnect", "unplugged",
          "unplugging", "disconnected", "disconnecting", "gapped", "torqued", "fitted", "with",
          "near", "by", "beside", "reading", "do", "doing", "did")  # fmt: skip
BEFORE_A_FIGURE = ("at", "of", "with", "from")
THAN = ("than", "like", "as")
COMPARED = ("lower", "higher", "less", "more", "down", "up", "better", "worse")
BUT = (("but",), ("except", "for"), ("except",), ("apart", "from"), ("other", "than"), ("save",),
       ("bar",))  # fmt: skip
ALL = ("they", "they're")
BEFORE = (*PLACES, "boot", "well", "coil", "gap", "injector", "lead", "wiped", "brushed")
CUTTING = ("cutting", "shorting", "taking", "knocking", "cut", "shorted", "took", "knocked")
DOES = ("came", "comes", "went", "makes", "made", "reads", "shows", "gave", "gives", "got",
        "loses", "holds", "held", "drops", "is", "was", "hisses", "leaks", "looks", "sits",
        "that's")  # fmt: skip
MOST_CYLINDERS = 24
OCCASIONS = ("time", "go", "try", "thing", "off", "of", "attempt")
SPOKEN_OF = ("this", "that", "old", "new", "same", "good", "bad", "odd", "used", "spare", "fresh")
FROM_AN_END = ("first", "last")
COUNTED = ("piece", "side", "end", "edge", "more", "bit", "thing", "of", "corner", "half")
NOT_EVERYONE = ("over", "round", "around", "the", "way", "right", "along", "gone")
PARITY = {"odd": 1, "even": 0, "odds": 1, "evens": 0}
OF_NUMBERS = ("ones", "numbers", "cylinders", "plugs", "numbered", "side")
ORDINALS = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth",
            "tenth", "eleventh", "twelfth")  # fmt: skip


class Whom:
    """Finds the cylinders that are named.

    Attributes
    ----------
    round : str
        Where in the round the speaker is.
    count : int
        How many cylinders there are; 0 where nobody knows.
    order : list of int
        In which they are gone through.
    """

    round: str
    count: int
    order: list[int]
    banks: dict[str, tuple[int, ...]]

    def _bank(self, texts: Sequence[str], clause: range) -> tuple[int, range] | None:
        """Where a clause says that it is of a bank, and the two words that say so."""
        for at in clause:
            if texts[at] not in ("bank", "bank's", "side"):
                continue
            for beside in (at - 1, at + 1):
                if beside in clause and texts[beside] in self.banks:
                    return beside, range(min(at, beside), max(at, beside) + 1)
        return None

    def _of_unknown_bank(self, texts: Sequence[str], clause: range) -> bool:
        """Whether a clause is said of a bank that the record does not know."""
        said = {"bank", "banks"} & set(texts[clause.start : clause.stop])
        return bool(said) and self._bank(texts, clause) is None

    def _cylinders(self, line: Line, texts: Sequence[str], clause: range) -> tuple[int, ...] | None:
        """The cylinders that a clause names; their tokens are taken."""
        found: list[int] = []
        if bank := self._bank(texts, clause):
            line.taken.update(bank[1])
            return self.banks[texts[bank[0]]]
        at = clause.start
        while at < clause.stop:
            everyone = self._everyone(line, texts, at, clause)
            if everyone is not None:
                return everyone
            of_all = any(
                line.tokens[one].plural or texts[one] in ALL for one in range(clause.start, at)
            )
            if of_all and not found and (excepted := self._excepted(line, texts, at, clause)):
                line.excepted += excepted
                return tuple(one for one in self.order if one not in excepted)
            named = self._named(line, texts, at, clause, first=not found)
            if named is None:
                at += 1
                continue
            numbers, at = named
            found += numbers
            line.named += numbers
        if found:
            return tuple(dict.fromkeys(found))
        return None

    def _everyone(
        self, line: Line, texts: Sequence[str], at: int, clause: range
    ) -> tuple[int, ...] | None:
        rest = texts[at : clause.stop]
        known = lexicon()
        plural_next = at + 1 < clause.stop and line.tokens[at + 1].plural
        if plural_next and is_number(texts[at]) and value_of(texts[at]) == self.count:
            line.taken.add(at)  # Six plugs, of six.
            return tuple(range(1, self.count + 1))
        phrase = longest_at(known.phrases, texts[: clause.stop], at, known.longest)
        if phrase and all(one.subject == "pressing" for one in known.phrases[phrase]):
            return None  # All plugs out is how it is tested.
        for words in (
            ("none", "of", "them"), ("any", "of", "them"), ("all", "of", "them"), ("them", "all"),
            ("they", "all"), ("every", "one"), ("the", "rest"), ("the", "others"), ("rest",),
            ("others",), ("the", "other", "ones"), ("the", "other", "two"), ("other", "two"),
            ("the", "other", "three"), ("other", "three"), ("across", "the", "board"),
            ("each", "of", "them"), ("each", "one"), ("each",), ("none", "of", "these"),
            ("any", "of", "these"), ("all", "of", "these"),
            ("all",), ("everything",), ("both",), ("none",),
        ):  # fmt: skip
            if tuple(rest[: len(words)]) != words:
                continue
            against = tuple(texts[max(at - 2, 0) : at])
            down_on = against[-1:] == ("on",) and against[0] in COMPARED
            beside_them = down_on or against[-1:] in {(one,) for one in (*THAN, "the")}
            if words[-1] in ("rest", "others") and beside_them:
                return None  # Lower than the rest, or down on it: the rest is not spoken of.
            if words == ("none",) and (len(rest) > 1 or at > clause.start):
                continue
            beside = texts[at - 1] if at else "", rest[1] if len(rest) > 1 else ""
            said_of = tuple(rest[1:3])
            of_parts = said_of[:1] == ("the",) and said_of[1:] in lexicon().subjects
            plural = any(line.tokens[one].plural for one in clause)
            spread = beside[1] in NOT_EVERYONE and not of_parts and not plural
            astray = beside[0] == "at" or spread
            if words == ("all",) and (astray or line.named):
                continue  # Three, eighteen percent, all past the rings: all of three's.
            if words[0] == "none":
                line.denied.add(at)
            line.taken.update(range(at, at + len(words)))
            after = number_at(texts, at + len(words))
            if words == ("all",) and after and after.value == self.count:
                line.taken.add(at + 1)
            everyone = tuple(range(1, (self.count or max(self.order, default=0)) + 1))
            behind = [
                self._excepted(line, texts, one, clause)
                for one in range(at + len(words), clause.stop)
            ]
            excepted = next((one for one in behind if one), ())
            line.excepted += excepted
            if excepted:
                return tuple(one for one in everyone if one not in excepted)
            if words[-1] in ("rest", "others", "ones") or "other" in words:
                others = {int(n.value) for n in all_numbers(texts) if n.value <= self.count}
                return tuple(one for one in everyone if one not in others)
            if words == ("both",) and self.count != 2:
                return None
            return everyone
        return None

    def _excepted(
        self, line: Line, texts: Sequence[str], at: int, clause: range
    ) -> tuple[int, ...]:
        """All but three: the cylinders that are left out; their tokens are taken."""
        words = next((w for w in BUT if tuple(texts[at : at + len(w)]) == w), None)
        if words is None:
            return ()
        start, found = at, list[int]()
        at += len(words)
        while at < clause.stop:
            at += texts[at] in ("and", *MARKS)
            if not self._small(texts, at, clause):
                break
            found.append(int(value_of(texts[at])))
            at += 1
        if found:
            line.taken.update(range(start, at))
        return tuple(found)

    def _named(
        self, line: Line, texts: Sequence[str], at: int, clause: range, *, first: bool
    ) -> tuple[list[int], int] | None:
        """Cylinders that are named at a token, and where to go on."""
        start = at
        if list(texts[at + 1 : at + 3]) == ["out", "of"] and is_number(texts[at]):
            return None  # Two out of six are a count.
        if list(texts[max(at - 1, 0) : at + 1]) == ["out", "of"] and is_number(
            texts[max(at - 2, 0)]
        ):
            return None
        if at + 1 < clause.stop and line.tokens[at + 1].plural and is_number(texts[at]):
            return None  # Four boots are a count.
        if self.round == "leakdown" and texts[at] == "into":
            return None  # Four leaks into three: it is four's.
        parity = PARITY.get(texts[at])
        of_numbers = at + 1 < clause.stop and texts[at + 1] in OF_NUMBERS
        by_itself = texts[at].endswith("s") and texts[at - 1 if at else at] != "no"
        if parity is not None and (of_numbers or by_itself):
            line.taken.update(range(at, at + 1 + of_numbers))
            return [one for one in self.order if one % 2 == parity], at + 1 + of_numbers
        if some := self._from_an_end(texts, at, clause):
            line.taken.update(range(at, at + 2))
            return some, at + 2
        if texts[at] == "last" and (*texts, "")[at + 1] in NAMED and self.order:
            line.taken.update(range(at, at + 2))
            return [self.order[-1]], at + 2
        if texts[at] in ORDINALS and (*texts, "")[at + 1] not in OCCASIONS:
            end = at + 2 if at + 1 < clause.stop and texts[at + 1] in NAMED else at + 1
            line.taken.update(range(at, end))
            return [ORDINALS.index(texts[at]) + 1], end
        marked = texts[at] in MARKS and (
            self._small(texts, at + 1, clause) or self._before_a_point(texts, at + 1, clause)
        )
        cut_out = texts[at] in CUTTING and (*texts, "")[at + 1] == "out"
        cut_out = cut_out and self._small(texts, at + 2, clause)
        if cut_out:
            line.taken.add(at)
            at += 1
        of_it = texts[at] == "about" and self.round not in FIGURES_IN  # Nothing special about four.
        placed = (
            (cut_out or of_it or texts[at] in BEFORE)
            and self._small(texts, at + 1, clause)
            and not self._unit_after(texts, at + 2)
            and not self._figure_behind(texts, at)
            and not (at + 2 < clause.stop and line.tokens[at + 2].plural)
        )
        does = (
            not first
            or (at > clause.start and not any(is_number(one) for one in texts[clause.start : at]))
        ) and self._small(texts, at, clause)
        does = does and at + 1 < clause.stop and texts[at + 1] in DOES
        does = does and not is_number(texts[at - 1] if at else "")
        owns = line.tokens[at].owns and self._small(texts, at, clause)
        if marked or placed:
            if cut_out or of_it or texts[at] in MARKS or texts[at] in PLACES:
                line.taken.add(at)
            at += 1
        elif not does and not owns and not (first and self._leads(line, texts, at, clause)):
            return None
        made_one = self._unit_after(texts, at + 2)  # Three forty thou.
        numbers = [int(value_of(texts[at]))]
        line.taken.add(at)
        at += 1
        while at < clause.stop:
            if self.round == "faces" and self._small(texts, at, clause) and not made_one:
                numbers.append(int(value_of(texts[at])))
                line.taken.add(at)
                at += 1
                continue
            joins = texts[at] in ("and", "to", "through")
            if not joins or not self._small(texts, at + 1, clause):
                break
            if self._unit_after(texts, at + 2) or self._is_figure(texts, at + 1, clause):
                break
            other = int(value_of(texts[at + 1]))
            if texts[at] in ("to", "through"):
                if texts[at] == "to" and not marked and self.round in FIGURES_IN:
                    break
                numbers += range(numbers[-1] + 1, other + 1)
            else:
                numbers.append(other)
            line.taken.update((at, at + 1))
            at += 2
        if at < len(texts) and texts[at] == ":":
            line.taken.add(at)
            at += 1
        return numbers, max(at, start + 1)

    def _from_an_end(self, texts: Sequence[str], at: int, clause: range) -> list[int]:
        """The first three: so many of the order, from one of its ends."""
        if texts[at] not in FROM_AN_END or not self._small(texts, at + 1, clause):
            return []
        size = int(value_of(texts[at + 1]))
        if size < 2 or size >= self.count or self._unit_after(texts, at + 2):
            return []
        return self.order[:size] if texts[at] == "first" else self.order[-size:]

    def _small(self, texts: Sequence[str], at: int, clause: range) -> bool:
        """Whether a cylinder's number stands at a token, and not the beginning of a figure."""
        if at >= clause.stop or not is_number(texts[at]) or "." in texts[at]:
            return False
        if counts(texts, at) or within_a_phrase(texts, clause, at):
            return False
        value = value_of(texts[at])
        if not 1 <= value <= (self.count or MOST_CYLINDERS):
            return False
        return not (at + 1 < clause.stop and texts[at + 1] in ("point", "hundred", "thousand"))

    def _is_figure(self, texts: Sequence[str], at: int, clause: range) -> bool:
        """Whether what begins with a small number is a figure of the round: two ten is none."""
        whole = number_at(texts[: clause.stop], at)
        if whole is None or whole.end == at + 1:
            return at + 1 < clause.stop and is_number(texts[at + 1]) and self.round == "faces"
        return fits(FIGURE_OF.get(self.round, "gap"), None, whole.value)

    def _figure_behind(self, texts: Sequence[str], at: int) -> bool:
        """At one fifty: what stands there is a figure of this round, of more than one word."""
        quantity = FIGURE_OF.get(self.round)
        if quantity is None or texts[at] not in BEFORE_A_FIGURE:
            return False
        number = number_at(texts, at + 1)
        return number is not None and number.end > at + 2 and fits(quantity, None, number.value)

    def _before_a_point(self, texts: Sequence[str], at: int, clause: range) -> bool:
        """Number two, point nine: where a number must come it is a cylinder's, and no figure's."""
        return (
            at + 2 < clause.stop
            and texts[at + 1] == "point"
            and is_number(texts[at + 2])
            and is_number(texts[at])
            and 1 <= value_of(texts[at]) <= (self.count or MOST_CYLINDERS)
        )

    def _leads(self, line: Line, texts: Sequence[str], at: int, clause: range) -> bool:
        """Whether a bare number at the head of a clause names a cylinder."""
        before = range(clause.start, at)
        head = all(texts[one] in OPENERS or one in line.taken for one in before)
        head = head or (bool(before) and texts[at - 1] == ":")
        if head and self._split_point(texts, at, clause):
            return True
        if not head or not self._small(texts, at, clause) or self._unit_after(texts, at + 1):
            return False
        after = at + 1
        if after >= clause.stop:
            return self.round not in ("gaps", "leakdown") or clause.stop < len(texts)
        if not is_number(texts[after]):
            return True
        whole = number_at(texts, at)
        if self.round == "faces" and whole and not self._unit_after(texts, whole.end):
            return "gap" not in texts[clause.start : clause.stop]  # One three five and seven.
        rest = number_at(texts, after)
        if whole is None or rest is None:
            return True
        if whole.end == after:
            return True  # Two figures that make no third: the first one names.
        if rest.end > whole.end:
            return True  # Behind the first number stands one that takes in more of what was said.
        unit = self._unit_after(texts, max(whole.end, rest.end)) or self._only_unit(texts)
        quantity = QUANTITY_OF.get(unit or "", FIGURE_OF.get(self.round, "gap"))
        if whole.end < clause.stop and texts[whole.end] in ("hundred", "thousand"):
            return True
        return not fits(quantity, unit, whole.value) and fits(quantity, unit, rest.value)

    def _split_point(self, texts: Sequence[str], at: int, clause: range) -> bool:
        """Three point seven five: no gap is so wide, so three's is point seven five."""
        if self.round != "gaps" or at + 2 >= clause.stop or texts[at + 1] != "point":
            return False
        if not is_number(texts[at]) or not 1 <= value_of(texts[at]) <= (
            self.count or MOST_CYLINDERS
        ):
            return False
        whole, rest = number_at(texts, at), number_at(texts, at + 1)
        if whole is None or rest is None or whole.end != rest.end:
            return False
        unit = self._unit_after(texts, whole.end)
        return not fits("gap", unit, whole.value) and fits("gap", unit, rest.value)

    def _only_unit(self, texts: Sequence[str]) -> str | None:
        """The unit of a line in which one alone is said."""
        units = {unit for at in range(len(texts)) if (unit := self._unit_after(texts, at))}
        return units.pop() if len(units) == 1 else None

    def _unit_after(self, texts: Sequence[str], at: int) -> str | None:
        phrase = longest_at(lexicon().units, texts, at, lexicon().longest)
        return lexicon().units[phrase] if phrase else None

    # ------------------------------------------------------------------ what it says


def counts(texts: Sequence[str], at: int) -> bool:
    """Whether "one" names no cylinder: in one piece, the one plug, a new one, this one."""
    after = texts[at + 1] if at + 1 < len(texts) else ""
    before = texts[at - 1] if at else ""
    single = after == "plug" and before in ("the", "only", "just", "that")
    stands_for = before in SPOKEN_OF and (after == "one" or not is_number(after))
    return texts[at] == "one" and (after in COUNTED or single or stands_for)


def within_a_phrase(texts: Sequence[str], clause: range, at: int) -> bool:
    """Whether a word is inside a finding: tighter than it should be, pulled two threads."""
    known = lexicon()
    for start in range(max(clause.start, at - known.longest + 1), at):  # None is longer.
        phrase = longest_at(known.phrases, texts, start, min(known.longest, clause.stop - start))
        if phrase and start + len(phrase) > at:
            return True
    return False


def speaks_of(refs: Sequence[tuple[int, ...] | None], at: int) -> tuple[int, ...] | None:
    """Whom a clause speaks of: whom it names, or the last before it, or the first behind."""
    if refs[at] is not None:
        return refs[at]
    before = [one for one in refs[:at] if one is not None]
    after = [one for one in refs[at + 1 :] if one is not None]
    return before[-1] if before else after[0] if after else None
