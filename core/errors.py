"""The one family of refusals that the core raises."""

from __future__ import annotations

from typing import Any

SHORTENED_TO = 60


def shorten(value: Any) -> str:
    """A value as it may be quoted back to its sender: one line, at most 60 characters."""
    text = repr(value).replace("\n", " ")
    return text if len(text) <= SHORTENED_TO else text[: SHORTENED_TO - 1] + "…"


class CoreError(Exception):
    """Base of every refusal: a stable code, where, the value, what was expected."""

    def __init__(self, code: str, path: str, value: Any, expected: str) -> None:
        self.code = code
        self.path = path
        self.value = shorten(value)
        self.expected = expected
        super().__init__(path)

    def __str__(self) -> str:
        return f"{self.path or '/'}: {self.expected} (found {self.value})"


class OutOfRange(CoreError):
    """A number that a computation cannot accept; path is the argument's name."""

    def __init__(self, argument: str, value: Any, expected: str) -> None:
        super().__init__("out-of-range", argument, value, expected)


class KnowledgeError(CoreError):
    """A table that ships with the core contradicts itself."""

    def __init__(self, path: str, value: Any, expected: str) -> None:
        super().__init__("knowledge", path, value, expected)


class DocumentRefused(CoreError):
    """An inspection document that breaks the contract.

    Carries every problem that was found, each with the JSON Pointer of its place.
    """

    def __init__(self, problems: list[CoreError]) -> None:
        first = problems[0]
        super().__init__(first.code, first.path, None, first.expected)
        self.problems = problems
        self.value = first.value

    def __str__(self) -> str:
        return "; ".join(str(problem) for problem in self.problems)
