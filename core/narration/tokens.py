"""One spoken or typed line as tokens: words in lower case, figures, signs.

What is written otherwise and means the same is the same token: shorthand, decimal commas, plurals
by ear, inch marks. Where a figure begins and ends in words is left to numbers.py.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

WORD = r"[a-z]+(?:'[a-z]+)?"
CODE = r"[pbcu][0-3][0-9a-f]{3}\b"
FIGURE = r"\d+(?:,\d{3})+(?![\d,])|\d*[.,]\d+|\d+"
TOKEN = re.compile(rf"{CODE}|{FIGURE}|{WORD}|[,;:.!?/%#&=+°\"-]", re.IGNORECASE)
ALIKE = str.maketrans({"’": "'", "‘": "'", "“": '"', "”": '"', "–": "-", "—": ";"})
ENDS = (".", "!", "?", ";")  # Of a sentence.
STOPS = (*ENDS, ",", ":", "-", "/", "+", "=")
UNDIVIDED = re.compile(r"(?<=[a-z])-(?=[a-z])|(?<=[a-z])\.(?=[a-z]\.?\b)(?<=\b[a-z]\.)")
ABBREVIATED = re.compile(r"\b([a-z])\.([a-z])\.([a-z])\.", re.IGNORECASE)  # p.s.i.


@dataclass(frozen=True)
class Token:
    """A word, a figure or a sign; `own` where it is followed by 's."""

    text: str
    start: int
    end: int
    own: bool = False

    @property
    def figure(self) -> float | None:
        """Its value, where it is written in figures."""
        return written(self.text)

    @property
    def decimal(self) -> bool:
        return self.figure is not None and "." in self.text


def written(text: str) -> float | None:
    """The value of a figure as tokens spell it; None where it is a word."""
    return float(text) if text[:1].isdigit() else None


def tokens_of(line: str, spellings: Mapping[str, str]) -> list[Token]:
    """A line's tokens, each with its place in the line."""
    return list(_joined(list(_tokens(line, spellings))))


def _tokens(line: str, spellings: Mapping[str, str]) -> Iterator[Token]:
    lowered = line.translate(ALIKE).lower()
    lowered = ABBREVIATED.sub(lambda one: f"{one[1]}{one[2]}{one[3]}   ", lowered)
    for found in TOKEN.finditer(lowered):
        text, start, end = found[0], found.start(), found.end()
        if text[0].isdigit() or (text[0] in ".," and len(text) > 1):
            yield Token(_figure(text), start, end)
            continue
        whole, _, tail = text.partition("'")
        own = tail == "s" and whole not in ("it", "that", "there", "what", "he", "she", "who")
        text = whole if own else text
        spelt = spellings.get(text, text)
        for place, word in enumerate(spelt.split()):
            yield Token(word, start, end, own and place == len(spelt.split()) - 1)


def _figure(text: str) -> str:
    """12,345 is one number; 0,8 and 11,25 are decimals."""
    thousands = re.fullmatch(r"[1-9]\d{0,2}(?:,\d{3})+", text)
    plain = text.replace(",", "") if thousands else text.replace(",", ".")
    return plain if plain[0] != "." else f"0{plain}"


def _joined(tokens: list[Token]) -> Iterator[Token]:
    """Signs that say what a word would: 3" is inches, 1-4 is one to four, #3 number three."""
    for at, one in enumerate(tokens):
        before = tokens[at - 1] if at else None
        behind = tokens[at + 1] if at + 1 < len(tokens) else None
        figures = before is not None and before.figure is not None
        followed = behind is not None and behind.figure is not None
        match one.text:
            case '"':
                if figures:
                    yield Token("in", one.start, one.end)
            case "-":
                touching = before and behind and before.end == one.start and one.end == behind.start
                if figures and followed and touching:
                    yield Token("to", one.start, one.end)
                elif not touching:
                    yield Token(",", one.start, one.end)
            case "#":
                yield Token("number", one.start, one.end)
            case "&" | "+":
                yield Token("and", one.start, one.end)
            case "/":
                if before is not None and before.text in ("w", "w'"):
                    continue
                yield one
            case "w" if behind is not None and behind.text == "/":
                yield Token("with", one.start, behind.end)
            case _:
                yield one
