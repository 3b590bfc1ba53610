"""From a line of plain trade English to proposed observations.

A line falls into clauses; each has the cylinders that it speaks of, figures with their units, and
the longest phrases of the lexicon, which mean something under what the clause is about. What was
said before is context. Nothing is guessed: what no rule takes is said to be not understood.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Any

from core.document.observations import unfold
from core.narration.lexicon import Meaning, lexicon, longest_at
from core.narration.line import (
    FIGURE_OF,
    QUANTITY_OF,
    Heard,
    Line,
    Proposal,
    Question,
    all_numbers,
    clauses_of,
    fits,
    hedged,
    left_over,
    marks,
    tokens_of,
)
from core.narration.numbers import Number, number_at
from core.narration.whom import MOST_CYLINDERS, Whom, speaks_of

# What is spoken of where no noun says so, first things first.
SCOPES = {
    "wells": ("well", "tests", "escapes"),
    "loosening": ("plug", "threads"),
    "faces": ("plug",),
    "gaps": ("plug",),
    "pressures": ("pressing", "reading"),
    "leakdown": ("escapes",),
    "running": ("complaints", "tests", "spark"),
    "fitting": ("refit", "plug"),
    "plan": (),
}
OF_FIRING_END = ("ground", "centre", "electrodes", "insulator", "gap", "deposit")
BOTH = {"electrodes": ("ground", "centre")}
LISTS = ("boot", "coil", "threads", "outside", "escapes", "complaints", "complaint_when")
FLAGS = ("gap_bridged", "gap_closed", "torqued", "fitted")
SURE, NUMBER_SURE, HEARD_SURE, UNIT_GUESSED = 0.97, 0.96, 0.75, 0.88
HEDGED = 0.7
AGAIN = (("same", "as"), ("like",), ("ditto",), ("same", "again"))
CORRECTED = (
    ("correction",),
    ("actually",),
    ("no", "wait"),
    ("i", "mean"),
    ("scratch", "that"),
    ("sorry",),
)


class Listener(Whom):
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
        self.cylinder: int | None = None
        self.read: list[int] = []  # Those of whom the round's own figure was said, in order.
        self.removed = sum(path.startswith("/work/removed/") for path in self.known)

    def hear(self, line: str) -> Heard:
        """Propose what a line says; the same lines in the same order give the same answer."""
        tokens = list(tokens_of(line, self.round))
        gathered = Line(line, tokens)
        texts = [one.text for one in tokens]
        if removed := self._removed(gathered, texts):
            return self._answer(gathered, removed)
        corrects = marks(gathered, texts, CORRECTED)
        if self._same_as(gathered, texts):
            return self._answer(gathered)
        clauses = list(clauses_of(texts))
        refs = [self._cylinders(gathered, texts, clause) for clause in clauses]
        self._joined(clauses, refs, line=gathered)
        for at, clause in enumerate(clauses):
            self._clause(gathered, texts, clause, speaks_of(refs, at), refs, at)
        if not corrects:
            self._contradictions(gathered)
        return self._answer(gathered)

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
        inside = [at for at in clause if longest_at(known.elsewhere, texts, at, known.longest)]
        if inside:
            return  # Another part, another engine, another day.
        cylinders = spoken_of
        if cylinders is None and self.cylinder is not None:
            cylinders = (self.cylinder,)
        nouns = list(_nouns(texts, clause))
        if self.round == "leakdown":
            self._held(line, texts, clause, cylinders)
        self._figures(line, texts, clause, spoken_of, nouns)
        denied_from: int | None = None
        at = clause.start
        while at < clause.stop:
            if at in line.taken:
                denied_from = at if at in line.denied else denied_from
                at += 1
                continue
            hedge = longest_at(known.hedges, texts, at, known.longest)
            phrase, meanings = self._phrase(texts, at, clause, line, nouns)
            if not meanings:
                if texts[at] in known.denials:
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
            denied = denied_from is not None
            self._propose(line, meanings, cylinders, range(at, end), clause, denied=denied)
            at = end
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
            if phrase in known.phrases and not line.taken & set(range(at, at + size)):
                possible = known.phrases[phrase]
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
            wanted = BOTH.get(subject, (subject,))
            found = [one for one in meanings if one.subject in wanted]
            if found:
                return found
            if subject not in OF_FIRING_END:
                others = [one for one in meanings if one.subject in SCOPES[self.round]]
                return others[:1] if subject in SCOPES[self.round] else []
            found = [one for one in meanings if one.subject == "plug"]
            if found:
                return found[:1]
        for scope in SCOPES[self.round]:
            found = [one for one in meanings if one.subject == scope]
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
                bad = line.tokens[tokens.stop - 1].text == "bad"
                if bad != denied:
                    continue
            elif denied:
                word = _denied(meant)
                if word is None:
                    continue
            value: Any = word
            if meant.field in FLAGS:
                value = word == "yes"
            elif meant.field in LISTS:
                value = [word]
            words = line.words(tokens.start, tokens.stop)
            for path in self._paths(meant, cylinders):
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

    def _put(self, line: Line, proposal: Proposal) -> None:
        """Take a proposal in; words of one list come together, and the later word counts."""
        before = line.found.get(proposal.path)
        if before and isinstance(proposal.value, list):
            joined = [*before.value, *(w for w in proposal.value if w not in before.value)]
            proposal = replace(proposal, value=joined, words=f"{before.words}, {proposal.words}")
        line.found[proposal.path] = proposal

    # ------------------------------------------------------------------ figures

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
            if number is None or number.end > clause.stop:
                at += 1
                continue
            self._figure(line, texts, at, number, spoken_of, nouns)
            at = number.end
        if self.round == "pressures" and {"no", "compression"} <= set(
            texts[clause.start : clause.stop]
        ):
            for one in spoken_of or ():
                words = line.words(clause.start, clause.stop)
                path = _figure_path("pressure", one)
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
        unit = lexicon().units[phrase] if phrase else None
        end = number.end + (len(phrase) if phrase else 0)
        if unit == "strokes":
            line.taken.update(range(at, end))
            path = "/tests/compression/0/puffs"
            self._put(line, Proposal(path, int(number.value), line.words(at, end), NUMBER_SURE))
            return
        if unit == "rpm":
            if self.round == "pressures":
                line.taken.update(range(at, end))
                path = "/tests/compression/0/cranking_rpm"
                said = line.words(at, end)
                self._put(line, Proposal(path, _plain(number.value), said, NUMBER_SURE))
            return
        of_gap = any(name == "gap" for _, _, name in nouns)
        quantity = QUANTITY_OF.get(unit or "") or (
            "gap" if of_gap else FIGURE_OF.get(self.round, "")
        )
        if not quantity or (self.round == "faces" and not unit and not of_gap):
            return
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
        line.taken.update(range(at, end))
        first = at - 1 if at and texts[at - 1] == "gap" else at
        said = line.words(first, end)
        for one in self._figures_of(quantity, spoken_of, line):
            path = _figure_path(quantity, one, fitting=self.round == "fitting")
            if not fits(quantity, unit, number.value):
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
            if held is None or held.end >= clause.stop or texts[held.end] not in ("over", "/"):
                continue
            supply = number_at(texts, held.end + 1)
            if supply is None:
                continue
            line.taken.update(range(at, supply.end))
            words = line.words(at, supply.end)
            for one in cylinders or ():
                path = f"/tests/leakdown/0/readings/{one}/held"
                value = {"value": _plain(held.value), "unit": "psi"}
                self._put(line, Proposal(path, value, words, UNIT_GUESSED))

    # ------------------------------------------------------------------ the rest

    def _removed(self, line: Line, texts: Sequence[str]) -> list[Proposal]:
        """Off: this, that and the other, one entry each."""
        if texts[:1] not in (["off"], ["removed"]) or texts[1:2] not in ([":"], [","]):
            return []
        said = re.split(r",|\band\b", line.text[line.tokens[1].end :])
        line.taken.update(range(len(texts)))
        made = []
        for what in (one.strip(" .") for one in said):
            if what:
                self.removed += 1
                path = f"/work/removed/off-{self.removed}/what"
                made.append(Proposal(path, what, what, SURE))
        return made

    def _same_as(self, line: Line, texts: Sequence[str]) -> bool:
        """Two same as one: whatever stands at one's plug stands at two's."""
        for at in range(len(texts)):
            words = next((w for w in AGAIN if tuple(texts[at : at + len(w)]) == w), None)
            if words is None:
                continue
            numbers = [int(one.value) for one in all_numbers(texts)]
            target = numbers[0] if numbers else self._after(self.cylinder)
            model = numbers[1] if len(numbers) > 1 else self.cylinder
            if target is None or model is None or target == model:
                return False
            start = f"/cylinders/{model}/plug/"
            if not any(path.startswith(start) for path in self.known):
                return True  # Of the other nothing is known: the whole line is not understood.
            for path, value in list(self.known.items()):
                if path.startswith(start):
                    own = f"/cylinders/{target}/plug/{path[len(start) :]}"
                    self._put(line, Proposal(own, value, line.text.strip(), 0.9))
            line.taken.update(range(len(texts)))
            self.cylinder = target
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
        case "spark":
            return f"/tests/spark/{cylinder}/result"
        case "tests":
            test, _, what = meant.field.partition("_")
            return f"/tests/{test}/{cylinder}/{what}"
        case "refit":
            return f"/refit/cylinders/{cylinder}/{meant.field}"
        case _:
            return f"/cylinders/{cylinder}/plug/{meant.field}"


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


def _of_a_cylinder(meant: Meaning) -> bool:
    return meant.subject not in ("pressing", "complaints")


def _denied(meant: Meaning) -> str | None:
    """The word for none of it, where the contract has one."""
    if meant.field in FLAGS:
        return "no"
    return "none" if "none" in lexicon().words[meant.field] else None


def _plain(value: float) -> float | int:
    return int(value) if value == int(value) else round(value, 6)


def _told(value: Any) -> str:
    if isinstance(value, dict):
        return f"{value['value']:g} {value['unit']}"
    return str(value)
