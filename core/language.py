"""The language in which the core says what it has to say.

A text is written in English where it is needed and said through `say`, which looks it up in the
catalogue of the language that is spoken just now (gettext, read by Babel). What nobody has
translated stays English. Texts of the tables are looked up the same way.

    with speaking("de"):
        assessment = assess(document)
"""

from __future__ import annotations

import re
import string
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import date
from functools import cache
from importlib import resources
from typing import Any

from core.errors import OutOfRange

ENGLISH = "en"
LANGUAGES: Mapping[str, str] = {ENGLISH: "English", "de": "Deutsch"}
PROOF = "x-proof"  # Every text between brackets: a test finds those that went past `say`.
_spoken: ContextVar[str] = ContextVar("spoken", default=ENGLISH)


@contextmanager
def speaking(language: str) -> Iterator[None]:
    """Say everything in one language, until the end of the block.

    Raises
    ------
    OutOfRange
        If the core does not speak it.
    """
    if language not in LANGUAGES and language != PROOF:
        raise OutOfRange("language", language, f"one of {', '.join(LANGUAGES)}")
    before = _spoken.set(language)
    try:
        yield
    finally:
        _spoken.reset(before)


def spoken_language() -> str:
    """The language that is spoken just now."""
    return _spoken.get()


def say(text: str, /, **parts: object) -> str:
    """A text in the language that is spoken, with its parts filled in.

    Parameters
    ----------
    text : str
        In English, as a literal or from a table; its parts stand in braces as `str.format` has it.
    **parts : object
        Numbers with a format get the decimal sign of the language.
    """
    language = _spoken.get()
    if language == ENGLISH or not text:
        return text.format(**parts) if parts else text
    told = _proof(text) if language == PROOF else _catalogue(language).get(text, text)
    return _FORMATTER.vformat(told, (), parts) if parts else told


def later(text: str) -> str:
    """Mark a text that is said later: it is found by who collects the texts, and left as it is."""
    return text


def listed(things: Sequence[object]) -> str:
    """Several things as they are said: 1, 2 and 3."""
    return _joined(later("{some} and {last}"), things)


def one_of(things: Sequence[object]) -> str:
    """Several things of which one is meant: 1, 2 or 3."""
    return _joined(later("{some} or {last}"), things)


def _joined(joining: str, things: Sequence[object]) -> str:
    told = [str(one) for one in things]
    if len(told) < 2:
        return "".join(told)
    return say(joining, some=", ".join(told[:-1]), last=told[-1])


def ranged(ends: Sequence[str]) -> str:
    """From the first to the last: 0.8 mm to 0.9 mm; one alone as it is."""
    return (
        say("{least} to {most}", least=ends[0], most=ends[-1]) if len(ends) > 1 else "".join(ends)
    )


def cylinders_said(numbers: Sequence[object], *, counted: bool = False) -> str:
    """Cylinders within a sentence: cylinder 3; cylinders 1, 2 and 4; counted, cylinders 1, 2, 4."""
    if len(numbers) == 1:
        return say("cylinder {number}", number=numbers[0])
    told = ", ".join(map(str, numbers)) if counted else listed(numbers)
    return say("cylinders {numbers}", numbers=told)


def begun(text: str) -> str:
    """A text as a sentence begins with it."""
    first = 1 if text.startswith("⟦") else 0
    return f"{text[:first]}{text[first : first + 1].upper()}{text[first + 1 :]}"


def word_said(name: str) -> str:
    """A word of the contract as it is said: its hyphens are spaces, what was typed never comes."""
    return say(spaced(name))


def spaced(name: str) -> str:
    """The same in English, as the catalogue knows it."""
    return name.replace("_", " ").replace("-", " ")


def date_said(day: date) -> str:
    """A day as it is written out: 3 March 2026, 3. März 2026."""
    language = _spoken.get()
    if language in (ENGLISH, PROOF):
        return f"{day:%-d %B %Y}"
    from babel.dates import format_date  # Who speaks English needs nothing of it.

    return str(format_date(day, "long", locale=language))


def day_said(written: str) -> str:
    """A day of the record, YYYY-MM-DD, as the language has it in figures; in English as written,
    for there one half of the readers would take the month for the day."""
    if _spoken.get() in (ENGLISH, PROOF):
        return written
    from babel.dates import format_date

    try:
        return str(format_date(date.fromisoformat(written), "medium", locale=_spoken.get()))
    except ValueError:
        return written


def number_said(told: str) -> str:
    """A number as Python writes it, with the signs of the language."""
    if _spoken.get() in (ENGLISH, PROOF):
        return told
    decimal, group = _signs(_spoken.get())
    return told.translate({ord("."): decimal, ord(","): group})


def number_read(told: str) -> float:
    """A number as it was said in the language that is spoken."""
    if _spoken.get() not in (ENGLISH, PROOF):
        decimal, group = _signs(_spoken.get())
        told = told.replace(group, "").replace(decimal, ".")
    return float(told)


def _proof(text: str) -> str:
    """A text between brackets, and its parts outside them."""
    pieces = re.split(r"(\{[^}]*\})", text)
    return "".join(one if one.startswith("{") or not one else f"⟦{one}⟧" for one in pieces)


class _Formatter(string.Formatter):
    """`str.format` whose numbers have the signs of the language."""

    def format_field(self, value: Any, format_spec: str) -> str:
        told = str(format(value, format_spec))
        return number_said(told) if format_spec and isinstance(value, int | float) else told


_FORMATTER = _Formatter()


@cache
def _signs(language: str) -> tuple[str, str]:
    """The decimal sign and what parts thousands."""
    from babel import Locale

    symbols = Locale.parse(language).number_symbols["latn"]
    return str(symbols["decimal"]), str(symbols["group"])


@cache
def _catalogue(language: str) -> Mapping[str, str]:
    """What every text is in a language."""
    from babel.messages.pofile import read_po

    with (resources.files("core.locale") / f"{language}.po").open("rb") as file:
        found = read_po(file, locale=language)
    return {str(one.id): str(one.string) for one in found if one.id and one.string}
