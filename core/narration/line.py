"""What comes of one line: proposals, questions, and what nobody understood."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from core.narration.grammar import grammar


@dataclass(frozen=True)
class Proposal:
    """One observation that a line proposes, with the words that it came from."""

    path: str
    value: Any
    words: str
    confidence: float
    of_several: bool = False  # The same was said of other cylinders in one word.

    def written(self) -> dict[str, Any]:
        """As the contract spells it."""
        names = ("path", "value", "words", "confidence")
        return {name: getattr(self, name) for name in names}

    @property
    def apart(self) -> bool:
        """Whether it is to be taken by itself, and not with the rest of its line."""
        table = grammar().raw
        grave = any(
            place in self.path and word in table["grave"]["words"]
            for place in table["grave"]["places"]
            for word in (self.value if isinstance(self.value, list) else [self.value])
            if isinstance(word, str)
        )
        return grave or self.of_several or self.confidence < table["confidence"]["at_once"]


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
            "proposals": [one.written() for one in self.proposals],
            "not_understood": list(self.not_understood),
            "questions": [{"text": one.text, "path": one.path} for one in self.questions],
        }


@dataclass
class Draft:
    """What is gathered while a line is heard."""

    line: str
    found: dict[str, Proposal] = field(default_factory=dict)
    questions: dict[str, Question] = field(default_factory=dict)
    left: list[str] = field(default_factory=list)
    corrects: bool = False

    def put(self, proposal: Proposal) -> None:
        """Take a proposal in; words of one list come together, and else the later one counts."""
        before = self.found.get(proposal.path)
        if before is not None and isinstance(proposal.value, list) and not _orders(proposal.path):
            joined = [*before.value, *(one for one in proposal.value if one not in before.value)]
            sure = min(before.confidence, proposal.confidence)
            proposal = Proposal(proposal.path, joined, before.words, sure)
        self.found[proposal.path] = proposal

    def ask(self, text: str, path: str, value: Any = None) -> None:
        self.questions.setdefault(path, Question(text, path, value))


def _orders(path: str) -> bool:
    return path.endswith("order")


def told(value: Any) -> str:
    """A value as a question says it."""
    if isinstance(value, Mapping):
        return f"{value['value']:g} {value['unit']}"
    if isinstance(value, list):
        return ", ".join(map(str, value))
    return str(value)
