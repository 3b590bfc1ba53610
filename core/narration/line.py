"""One spoken line: its tokens and clauses, and what is gathered from it."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import asdict, dataclass, field
from typing import Any

from core.narration.lexicon import lexicon, longest_at
from core.narration.numbers import Number, is_number, number_at

TOKEN = re.compile(r"\d+(?:,\d{3})+(?:\.\d+)?|\d*\.\d+|\d+|[a-z]+(?:'[a-z]+)?|[,;:.!?/%#&-]")
HYPHEN = re.compile(r"(?<!\d)-|-(?!\d)")  # One to three is written 1-3.
PLURALS = ("boots", "plugs", "wells", "coils", "leads", "gaps")  # Of which each has one.
BREAKS = {",", ";", ".", "!", "?", "/"}
# The figure that a round is about, where none is named.
FIGURE_OF = {"gaps": "gap", "faces": "gap", "pressures": "pressure", "leakdown": "percent",
             "fitting": "torque"}  # fmt: skip
QUANTITY_OF = {"mm": "gap", "thou": "gap", "in": "gap", "psi": "pressure", "bar": "pressure",
               "kPa": "pressure", "%": "percent", "N.m": "torque", "lbf.ft": "torque"}  # fmt: skip


@dataclass(frozen=True)
class Proposal:
    """One observation that a line proposes, with the words that it came from."""

    path: str
    value: Any
    words: str
    confidence: float


@dataclass(frozen=True)
class Question:
    """What has to be asked back before anything is recorded at a place."""

    text: str
    path: str
    value: Any = None  # What was said, to be taken if it is that.


@dataclass(frozen=True)
class Heard:
    """What became of one line."""

    line: str
    cylinder: int | None
    proposals: tuple[Proposal, ...]
    not_understood: tuple[str, ...]
    questions: tuple[Question, ...]

    def written(self) -> dict[str, Any]:
        """As the contract spells it."""
        return {
            "line": self.line,
            "cylinder": self.cylinder,
            "proposals": [asdict(one) for one in self.proposals],
            "not_understood": list(self.not_understood),
            "questions": [{"text": one.text, "path": one.path} for one in self.questions],
        }


@dataclass(frozen=True)
class Token:
    text: str
    start: int
    end: int
    misheard: bool = False
    plural: bool = False
    owns: bool = False  # Two's.


@dataclass
class Line:
    """What is gathered while one line is read."""

    text: str
    tokens: list[Token]
    taken: set[int] = field(default_factory=set)
    found: dict[str, Proposal] = field(default_factory=dict)
    questions: dict[str, Question] = field(default_factory=dict)
    named: list[int] = field(default_factory=list)
    denied: set[int] = field(default_factory=set)
    excepted: tuple[int, ...] = ()
    unit: str | None = None
    subject: str | None = None

    def words(self, start: int, end: int) -> str:
        """The line's own words from one token to before another."""
        return self.text[self.tokens[start].start : self.tokens[end - 1].end]


def tokens_of(line: str, round_: str = "faces") -> Iterator[Token]:
    lowered = HYPHEN.sub(" ", line.lower().replace("’", "'").replace("–", "-"))
    heard = lexicon().heard
    for found in TOKEN.finditer(lowered):
        text, start, end = found[0], found.start(), found.end()
        owns = text.endswith("'s") and is_number(text[:-2])
        if text.endswith("'s") and text not in ("it's", "that's", "there's", "light's", "engine's"):
            text = text[:-2]
        rest = lowered[end:].split()
        figures = text == "ten" and rest and (
            is_number(rest[0].strip(",.;")) or rest[0].strip(",.;") in ("bar", "percent", "thou",
                                                                      "psi", "per", "point")
        )  # fmt: skip
        # Ten is tan by ear, where colours are said.
        figures = figures or (text == "ten" and round_ != "faces")
        meant = heard.get(text, text) if not figures else text
        sounds = text not in (meant, f"{meant}s") and text.isalpha()  # No plural, and no sign.
        yield Token(meant, start, end, sounds, text in PLURALS, owns)


def value_of(token: str) -> float:
    """The figure of one token; 0 where it is none."""
    number = number_at([token], 0)
    return number.value if number else 0.0


def all_numbers(texts: Sequence[str]) -> Iterator[Number]:
    at = 0
    while at < len(texts):
        number = number_at(texts, at)
        if number:
            yield number
            at = number.end
        else:
            at += 1


def clauses_of(texts: Sequence[str]) -> Iterator[range]:
    """Ranges of tokens between stops; a comma between figures and words parts them too."""
    start = 0
    for at, text in enumerate(texts):
        parts = text in BREAKS or (
            text == "and" and at + 1 < len(texts) and is_number(texts[at + 1])
            and at + 2 < len(texts) and texts[at + 2] not in BREAKS and at > 0
            and not is_number(texts[at - 1]) and texts[at - 1] not in ("hundred",)
        )  # fmt: skip
        if parts:
            if at > start:
                yield range(start, at)
            start = at + 1
        elif text == "which" and at > start:
            yield range(start, at)
            start = at
    if start < len(texts):
        yield range(start, len(texts))


def hedged(line: Line, around: range, texts: Sequence[str] | None = None) -> bool:
    known = lexicon()
    said = [one.text for one in line.tokens]
    start = max(around.start - 1, 0) if texts is not None else around.start
    return any(longest_at(known.hedges, said[: around.stop], at, known.longest)
               for at in range(start, around.stop))  # fmt: skip


def marks(line: Line, texts: Sequence[str], wanted: Sequence[tuple[str, ...]]) -> bool:
    for words in wanted:
        if tuple(texts[: len(words)]) == words:
            line.taken.update(range(len(words)))
            return True
    return False


def left_over(line: Line) -> Iterator[str]:
    """What nothing took, in runs of the line's own words; fillers alone are not worth a word."""
    fillers = lexicon().fillers
    run: list[int] = []
    for at in [*range(len(line.tokens)), None]:
        here = at is not None and at not in line.taken and line.tokens[at].text not in BREAKS
        if here and at is not None:
            run.append(at)
            continue
        if any(line.tokens[one].text not in fillers for one in run):
            yield line.words(run[0], run[-1] + 1)
        run = []


def fits(quantity: str, unit: str | None, value: float) -> bool:
    units = lexicon().plausible[quantity]
    wanted = [units[unit]] if unit in units else list(units.values())
    return any(low <= value <= high for low, high in wanted)
