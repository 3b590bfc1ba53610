"""From a line of plain trade English to proposed observations.

A line falls into clauses; each has the cylinders that it speaks of, figures with their units, and
the longest phrases of the lexicon, which mean something under what the clause is about. What was
said before is context. Nothing is guessed: what no rule takes is said to be not understood.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from itertools import pairwise
from typing import Any

from core.document.observations import unfold
from core.narration.clauses import CORRECTED, Clauses, says_alike
from core.narration.figures import HEARD_SURE, HEDGED, SURE, Figures
from core.narration.lexicon import Meaning, lexicon, longest_at
from core.narration.line import (
    Heard,
    Line,
    Proposal,
    Question,
    all_numbers,
    clauses_of,
    hedged,
    left_over,
    marks,
    tokens_of,
)
from core.narration.numbers import is_number
from core.narration.whom import COMPARED, speaks_of, within_a_phrase

# What is spoken of where no noun says so, first things first.
SCOPES = {
    "wells": ("well", "tests"),
    "loosening": ("plug", "threads"),
    "faces": ("plug", "insulator"),
    "gaps": ("plug",),
    "pressures": ("pressing", "reading"),
    "leakdown": ("escapes",),
    "running": ("complaints", "tests", "spark"),
    "fitting": ("refit",),
    "plan": (),
}
NOT_LOOKING = ("loosening", "gaps", "fitting")
LOOKING = {"look", "looks", "looking", "looked"}
OF_FIRING_END = ("ground", "centre", "electrodes", "insulator", "gap", "deposit")
PARTS = ("boot", "coil", "connector", "threads", "outside", "injector")
BOTH = {"electrodes": ("ground", "centre")}
LISTS = ("boot", "coil", "threads", "outside", "escapes", "complaints", "complaint_when")
FLAGS = ("gap_bridged", "gap_closed", "torqued", "fitted", "reused")
# Said elsewhere it is another thing.
ONLY_IN = {
    "refit": ("fitting",),
    "balance_felt": ("running",),
    "seating": ("loosening", "faces", "wells"),
    "escapes": ("leakdown",),
}
ADVERBIALLY = ("as", "is", "are", "was", "were", "it's", "that's", "pretty")
ASKING = (
    ("is", "that"), ("is", "it"), ("is", "there"), ("are", "they"), ("are", "those"),
    ("was", "it"), ("was", "that"), ("could", "it"), ("could", "that"), ("what", "do"),
    ("does", "that"), ("should", "i"),
)  # fmt: skip
CODE = re.compile(r"\b[pbcu][0-3][0-9a-f]{3}\b", re.IGNORECASE)
TAKEN_OFF = (("off",), ("removed",), ("took", "off"), ("taken", "off"), ("pulled", "off"),
             ("had", "to", "take", "off"), ("takes", "off"))  # fmt: skip
BEFORE_A_PART = re.compile(r"(?i)^\s*(?:(?:i|we|took|take|taken|pulled|had|to|the|a|an)\s+)*")
NEIGHBOUR = (Meaning("escapes", "escapes", "neighbour"),)
NO_DROP = (Meaning("tests", "balance_felt", "none"),)
TORQUED = (Meaning("refit", "torqued", "yes"),)
FITTED = (Meaning("refit", "fitted", "yes"),)  # Three's in.
AGAIN = (("same", "as"), ("like",), ("ditto",), ("same", "again"))
OF_A_PART = {"with", "of", "some"}  # Tan with a bit of white: the second colour is a part's.


class Listener(Figures, Clauses):
    """Hears lines in order and keeps what they were about.

    Parameters
    ----------
    document : dict, optional
        A checked document: how many cylinders there are, and what stands there already.
    round_ : str, optional
        Where in the round the speaker is: a `SpokenRound`. Faces, where nobody says.
    """

    def __init__(
        self, document: Mapping[str, Any] | None = None, round_: str | None = None
    ) -> None:
        self.round = round_ or "faces"
        self.count = int(document["engine"]["cylinders"]) if document else 0
        given = (document or {}).get("inspection", {}).get("order", [])
        self.order: list[int] = list(given) or list(range(1, self.count + 1))
        self.known: dict[str, Any] = _by_path(document) if document else {}
        banks = document["engine"].get("banks", []) if document else []
        self.banks = {one["name"].lower(): tuple(one["cylinders"]) for one in banks}
        self.cylinder: int | None = None
        self.read: list[int] = []  # Those of whom the round's own figure was said, in order.
        self.removed = sum(path.startswith("/work/removed/") for path in self.known)

    def hear(self, line: str) -> Heard:
        """Propose what a line says; the same lines in the same order give the same answer."""
        tokens = list(tokens_of(line, self.round))
        if _of_nothing_here([one.text for one in tokens]):
            said = (line.strip(),)
            return Heard(line, self.cylinder, proposals=(), not_understood=said, questions=())
        self._part(tokens)
        gathered = Line(line, tokens)
        texts = [one.text for one in tokens]
        if removed := self._removed(gathered, texts):
            return self._answer(gathered, removed)
        corrects = marks(gathered, texts, CORRECTED)
        if self._only_opens(texts):
            gathered.taken.add(0)
        clauses = [part for one in clauses_of(texts) for part in self._parts(gathered, texts, one)]
        alike = [at for at in range(1, len(clauses)) if says_alike(texts, clauses[at])]
        clauses = [
            one
            for at, one in enumerate(clauses)
            if at in alike or not self._same_as(gathered, texts, one)
        ]
        refs = self._in_order(gathered, texts, clauses) or [
            self._cylinders(gathered, texts, clause) for clause in clauses
        ]
        self._likewise(gathered, texts, clauses, refs)
        self._renamed(texts, clauses, refs)
        self._joined(clauses, refs, line=gathered)
        self._of_the_excepted(gathered, texts, clauses, refs)
        self._codes(gathered, texts)
        for at, clause in enumerate(clauses):
            self._clause(gathered, texts, clause, speaks_of(refs, at), refs, at)
        if not corrects:
            self._contradictions(gathered)
        return self._answer(gathered)

    def _codes(self, line: Line, texts: Sequence[str]) -> None:
        """Trouble codes, wherever they are said."""
        found = list(CODE.finditer(line.text))
        for code in found:
            whole = range(code.start(), code.end())
            line.taken.update(at for at, one in enumerate(line.tokens) if one.start in whole)
            said = code[0].upper()
            self._put(line, Proposal("/inspection/trouble_codes", [said], code[0], SURE))
        if found:
            line.taken.update(at for at, text in enumerate(texts) if text in ("code", "codes"))

    def _clause(
        self,
        line: Line,
        texts: list[str],
        clause: range,
        spoken_of: tuple[int, ...] | None,
        refs: Sequence[tuple[int, ...] | None],
        index: int,
    ) -> None:
        known = lexicon()
        phrases = ((at, longest_at(known.elsewhere, texts, at, known.longest)) for at in clause)
        inside = [
            at for at, one in phrases if one and not {*range(at, at + len(one))} <= line.taken
        ]
        inside = [at for at in inside if not within_a_phrase(texts, clause, at)]
        if self.round == "fitting":  # There it is the plug's own gap.
            inside = [at for at in inside if tuple(texts[at : at + 2]) != ("set", "to")]
        if inside or self._of_unknown_bank(texts, clause):
            return  # Another part, another engine, another day.
        cylinders = spoken_of
        if cylinders is None and self.cylinder is not None:
            cylinders = (self.cylinder,)
        nouns = list(_nouns(texts, clause))
        if self.round == "leakdown":
            said = texts[clause.start : clause.stop]
            into = any(one == "into" and is_number(behind) for one, behind in pairwise(said))
            if into or (spoken_of and len(spoken_of) > 1 and "hole" in said):
                # Three hisses out of number two's hole, or leaks into it.
                spoken_of = cylinders = (spoken_of or ())[:1]
                self._propose(line, NEIGHBOUR, cylinders, clause, clause, denied=False)
                line.taken.update(clause)
                return
            self._held(line, texts, clause, cylinders)
        self._figures(line, texts, clause, spoken_of, nouns)
        denied_from: int | None = None
        said_nothing = True
        at = clause.start
        while at < clause.stop:
            if at in line.taken:
                denied_from = at if at in line.denied else denied_from
                at += 1
                continue
            hedge = longest_at(known.hedges, texts, at, known.longest)
            phrase, meanings = self._phrase(texts, at, clause, line, nouns)
            if not meanings:
                compared = at + 1 < clause.stop and texts[at + 1] in COMPARED
                if texts[at] in known.denials and compared:
                    line.taken.update((at, at + 1))  # No better with oil.
                elif texts[at] in known.denials:
                    denied_from = at
                    line.taken.add(at)
                elif texts[at] in known.denials_end:
                    denied_from = None
                elif hedge:
                    line.taken.update(range(at, at + len(hedge)))
                    at += len(hedge) - 1
                at += 1
                continue
            end = at + len(phrase)
            if any(_of_a_cylinder(one) for one in meanings) and not cylinders:
                at = end  # Nobody knows whose it is: it is said to be not understood.
                continue
            line.taken.update(range(at, end))
            said_nothing = False
            denied = denied_from is not None
            self._propose(line, meanings, cylinders, range(at, end), clause, denied=denied)
            at = end
        last = clause.stop - 1
        if self.round == "running" and spoken_of and texts[last] in known.denials and said_nothing:
            line.taken.add(last)  # One drops, two doesn't.
            self._propose(line, NO_DROP, spoken_of, range(last, last + 1), clause, denied=False)
        torqued = "torqued" in texts[clause.start : clause.stop]
        if self.round == "fitting" and spoken_of and torqued:
            self._propose(line, TORQUED, spoken_of, clause, clause, denied=False)
        for at in clause if self.round == "fitting" and cylinders else ():
            behind = texts[at + 1] if at + 1 < clause.stop else "and"
            if texts[at] == "in" and behind in ("and", "then", "already") and at not in line.taken:
                line.taken.add(at)
                self._propose(line, FITTED, cylinders, clause, clause, denied=False)
        for position, size, name in nouns:
            line.taken.update(range(position, position + size))
            line.subject = name
        if spoken_of and len(spoken_of) == 1:
            self.cylinder = spoken_of[0]

    def _phrase(
        self,
        texts: Sequence[str],
        at: int,
        clause: range,
        line: Line,
        nouns: Sequence[tuple[int, int, str]],
    ) -> tuple[tuple[str, ...], list[Meaning]]:
        """The longest phrase at a token that means something here, and what."""
        known = lexicon()
        for size in range(min(known.longest, clause.stop - at), 0, -1):
            phrase = tuple(texts[at : at + size])
            taken = line.taken & set(range(at, at + size))
            if size > 1 and phrase[-1] in ("in", "on"):
                taken.discard(at + size - 1)  # New one in three: it belongs to both.
            if phrase in known.phrases and not taken:
                possible = [
                    one
                    for one in known.phrases[phrase]
                    if self.round in ONLY_IN.get(one.field, ONLY_IN.get(one.subject, (self.round,)))
                ]
                if self.round in NOT_LOOKING and LOOKING.isdisjoint(phrase):
                    possible = [one for one in possible if one.field != "look"]
                to = texts[at + size : at + size + 1] == ["to"]
                if to and at + size + 1 < clause.stop and is_number(texts[at + size + 1]):
                    possible = [one for one in possible if one.field != "gap_closed"]
                if not possible:  # Closed up to twenty.
                    continue
                names_it = size > 1 and any((one,) in known.subjects for one in phrase)
                if names_it and len({one.subject for one in possible}) == 1:
                    return phrase, list(possible[:1])  # It says itself what it is said of.
                if meanings := self._meant(possible, nouns, at, line):
                    return phrase, meanings
        return (), []

    def _meant(
        self,
        meanings: Sequence[Meaning],
        nouns: Sequence[tuple[int, int, str]],
        at: int,
        line: Line,
    ) -> list[Meaning]:
        """Which of a phrase's meanings it has here."""
        before = [name for position, _, name in nouns if position < at]
        after = [name for position, _, name in nouns if position > at]
        said = before[-1:] or after[:1]
        for subject in said:
            if self.round == "fitting" and subject == "threads":
                subject = "refit"  # Those of the new plug.
            wanted = BOTH.get(subject, (subject,))
            found = [one for one in meanings if one.subject in wanted]
            if found:
                return found
            if subject in PARTS:
                return []
            if subject not in OF_FIRING_END:
                others = [one for one in meanings if one.subject in SCOPES[self.round]]
                return others[:1] if subject in SCOPES[self.round] else []
            found = [one for one in meanings if one.subject == "plug"]
            if found:  # A gap that is fine says nothing of the plug.
                return [] if found[0].field == "look" else found[:1]
        if line.subject in (*PARTS, "spark"):  # Boots one and two oily, three and four clean.
            found = [one for one in meanings if one.subject == line.subject]
            if found:
                return found
        scopes = [one for one in SCOPES[self.round] if not said or one != "insulator"]
        for scope in scopes:
            found = [one for one in meanings if one.subject == scope]
            looks = [one for one in found if one.field == "look"]
            if looks and self.round == "faces":
                found = looks  # Normal is how it looks there, and not how tight it was.
            if scope in ("insulator", "threads"):  # Good is said of the plug; cracked of no other.
                found = [one for one in found if one.word not in ("sound", "clean")]
            if found:
                return found
        if line.subject:
            wanted = BOTH.get(line.subject, (line.subject,))
            return [one for one in meanings if one.subject in wanted]
        return []

    def _propose(
        self,
        line: Line,
        meanings: Sequence[Meaning],
        cylinders: tuple[int, ...] | None,
        tokens: range,
        clause: range,
        *,
        denied: bool,
    ) -> None:
        sure = SURE * (HEDGED if hedged(line, clause) else 1)
        if any(line.tokens[at].misheard for at in tokens):
            sure *= HEARD_SURE
        for meant in meanings:
            word: str | None = meant.word
            if meant.field == "look":
                # Bad by itself says nothing; not bad says that it looks fine, and no more.
                said = [line.tokens[at].text for at in tokens]
                bad = said[-1] == "bad" and not lexicon().denials & set(said)
                if bad != denied:
                    continue
            elif denied:
                word = _denied(meant)
                if word is None:
                    continue
                if not lexicon().degrees.isdisjoint(
                    one.text for one in line.tokens[tokens.start : tokens.stop]
                ):
                    line.taken -= set(tokens)  # Not thick: there may still be some.
                    continue
            value: Any = word
            if meant.field in FLAGS:
                value = word == "yes"
            elif meant.field in LISTS and meant.subject != "refit":
                value = [word]
            words = line.words(tokens.start, tokens.stop)
            before = {line.tokens[at].text for at in range(max(tokens.start - 2, 0), tokens.start)}
            second = meant.field == "deposit_colour" and not OF_A_PART.isdisjoint(before)
            for path in self._paths(meant, cylinders):
                if second and path in line.found:
                    line.taken -= set(tokens)
                    continue
                self._put(line, Proposal(path, value, words, round(sure, 2)))
                dry = meant.subject == "plug" and meant.field == "wetness" and value == "dry"
                if dry:
                    line.found.pop(path.replace("wetness", "wet_with"), None)

    def _paths(self, meant: Meaning, cylinders: tuple[int, ...] | None) -> Iterator[str]:
        if meant.subject == "pressing":
            yield f"/tests/compression/0/{meant.field}"
        elif meant.subject == "complaints":
            yield f"/inspection/{meant.field}"
        else:
            for one in cylinders or ():
                yield _place(meant, one)

    # ------------------------------------------------------------------ the rest

    def _removed(self, line: Line, texts: Sequence[str]) -> list[Proposal]:
        """Off: this, that and the other, one entry each."""
        words = next((w for w in TAKEN_OFF if tuple(texts[: len(w)]) == w), None)
        stop = words and len(texts) > len(words) and texts[len(words)] in (":", ",")
        if words and stop:
            rest = line.text[line.tokens[len(words)].end :]
        elif self.round != "plan" or not {"off", "removed"} & set(texts):
            return []
        elif words:
            rest = line.text[line.tokens[len(words) - 1].end :]
        else:  # Took the cover off and the pipe.
            rest = re.sub(r"(?i)\b(?:is |are |was |were )?(?:off|removed)\b", "", line.text)
        said = [BEFORE_A_PART.sub("", one) for one in re.split(r"(?i),|\band\b|\bthen\b", rest)]
        line.taken.update(range(len(texts)))
        made = []
        for what in (one.strip(" .") for one in said):
            if what:
                self.removed += 1
                path = f"/work/removed/off-{self.removed}/what"
                made.append(Proposal(path, what, what, SURE))
        return made

    def _same_as(self, line: Line, texts: Sequence[str], clause: range) -> bool:
        """Two same as one: whatever stands at one's plug stands at two's."""
        for at in clause:
            words = next((w for w in AGAIN if tuple(texts[at : at + len(w)]) == w), None)
            if words is None:
                continue
            numbers = [int(one.value) for one in all_numbers(texts[clause.start : clause.stop])]
            target = numbers[0] if numbers else self._after(self.cylinder)
            model = numbers[1] if len(numbers) > 1 else self.cylinder
            if target is None or model is None or target == model:
                return False
            self.cylinder = target
            start = f"/cylinders/{model}/plug/"
            if not any(path.startswith(start) for path in self.known):
                return True  # Of the other nothing is known: the clause is not understood.
            for path, value in list(self.known.items()):
                if path.startswith(start):
                    own = f"/cylinders/{target}/plug/{path[len(start) :]}"
                    self._put(line, Proposal(own, value, line.text.strip(), 0.9))
            line.taken.update(clause)
            line.named.append(target)
            return True
        return False

    def _after(self, number: int | None) -> int | None:
        if number is None or number not in self.order:
            return None
        at = self.order.index(number) + 1
        return self.order[at] if at < len(self.order) else None

    def _contradictions(self, line: Line) -> None:
        for path, proposal in list(line.found.items()):
            before = self.known.get(path)
            if before is None or before == proposal.value:
                continue
            if isinstance(before, list) or path.startswith("/tests/compression/0/kind"):
                continue
            text = f"{_told(before)} was recorded here, now {_told(proposal.value)}: which?"
            line.questions[path] = Question(text, path, proposal.value)
            del line.found[path]

    def _answer(self, line: Line, more: Sequence[Proposal] = ()) -> Heard:
        for path in [one for one in line.found if one.endswith("/rpm_drop")]:
            line.found.pop(path.replace("rpm_drop", "felt"), None)  # The figure says it already.
        found = [one for path, one in line.found.items() if path not in line.questions]
        fresh = [one for one in [*more, *found] if not self._stands(one)]
        for one in fresh:
            old = self.known.get(one.path)
            lists = isinstance(one.value, list) and isinstance(old, list)
            self.known[one.path] = [*old, *one.value] if lists and old else one.value
        if not self.count:
            self.order = sorted({*self.order, *line.named})
        single = line.named[-1] if line.named else None
        return Heard(
            line=line.text,
            cylinder=single if single else self.cylinder if found else None,
            proposals=tuple(fresh),
            not_understood=tuple(left_over(line)),
            questions=tuple(line.questions.values()),
        )

    def _stands(self, one: Proposal) -> bool:
        """Whether what is proposed stands already."""
        known = self.known.get(one.path)
        if isinstance(one.value, list) and isinstance(known, list):
            return set(one.value) <= set(known)
        return bool(known == one.value)


def _of_nothing_here(texts: Sequence[str]) -> bool:
    """Whether somebody asks rather than says, or says it of another engine."""
    asks = texts[-1:] == ["?"] or tuple(texts[:2]) in ASKING
    return asks or longest_at(lexicon().engines, texts, 0, lexicon().longest) is not None


def _by_path(document: Mapping[str, Any]) -> dict[str, Any]:
    """What stands in a document by the paths that are proposed; tests by their place."""
    found = dict(unfold(dict(document)))
    for kind in ("compression", "leakdown"):
        for at, test in enumerate(document.get("tests", {}).get(kind, [])):
            start = f"/tests/{kind}/{test.get('id', at)}/"
            for path in [one for one in found if one.startswith(start)]:
                found[f"/tests/{kind}/{at}/{path[len(start) :]}"] = found[path]
    return found


def _nouns(texts: Sequence[str], clause: range) -> Iterator[tuple[int, int, str]]:
    known, at = lexicon(), clause.start
    while at < clause.stop:
        phrase = longest_at(known.subjects, texts[: clause.stop], at, known.longest)
        alone = len(clause) == 1  # Three, well, three is wet.
        if texts[at] == "well" and (alone or (at and texts[at - 1] in ADVERBIALLY)):
            phrase = None  # Dry as well, well rounded: no hole is meant.
        longer = longest_at(known.phrases, texts[: clause.stop], at, known.longest)
        if phrase and not (longer and len(longer) > len(phrase)):
            yield at, len(phrase), known.subjects[phrase]
            at += len(phrase)
        else:
            at += 1


def _place(meant: Meaning, cylinder: int) -> str:
    match meant.subject:
        case "well":
            return f"/cylinders/{cylinder}/well/{meant.field}"
        case "boot" | "coil" | "connector":
            return f"/cylinders/{cylinder}/{meant.field}"
        case "escapes":
            return f"/tests/leakdown/0/readings/{cylinder}/escapes"
        case "reading":
            return f"/tests/compression/0/readings/{cylinder}/{meant.field}"
        case "injector":
            return f"/tests/injector/{cylinder}/{meant.field}"
        case "spark":
            return f"/tests/spark/{cylinder}/result"
        case "tests":
            test, _, what = meant.field.partition("_")
            return f"/tests/{test}/{cylinder}/{what}"
        case "refit":
            return f"/refit/cylinders/{cylinder}/{meant.field}"
        case _:
            return f"/cylinders/{cylinder}/plug/{meant.field}"


def _of_a_cylinder(meant: Meaning) -> bool:
    return meant.subject not in ("pressing", "complaints")


def _denied(meant: Meaning) -> str | None:
    """The word for none of it, where the contract has one."""
    if meant.field in FLAGS:
        return "no"
    if meant.field == "insulator":
        return "sound"
    return "none" if "none" in lexicon().words[meant.field] else None


def _told(value: Any) -> str:
    if isinstance(value, dict):
        return f"{value['value']:g} {value['unit']}"
    return str(value)
