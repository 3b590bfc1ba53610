"""The words of a plug: how each is called, said, heard and drawn, and what it makes of the plug."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib import resources

from core.errors import KnowledgeError


@dataclass(frozen=True)
class PlugWord:
    """One entry of `plug.toml`, which tells what each of these is."""

    says: str = ""
    denies: str = ""
    heard: tuple[str, ...] = ()
    label: str = ""
    tone: str = ""
    drawn: str = ""
    spoils: str = ""


@cache
def plug_words() -> Mapping[str, Mapping[str, PlugWord]]:
    """By field of the plug, its words in the order in which they are offered.

    Raises
    ------
    KnowledgeError
        If an entry says what no word can.
    """
    text = (resources.files("core.knowledge") / "plug.toml").read_text("utf-8")
    return {
        field: {word: _word(field, word, entry) for word, entry in words.items()}
        for field, words in tomllib.loads(text).items()
    }


def _word(field: str, word: str, entry: Mapping[str, str | list[str]]) -> PlugWord:
    unknown = entry.keys() - PlugWord.__dataclass_fields__.keys()
    if unknown:
        raise KnowledgeError(f"plug/{field}/{word}", sorted(unknown), "what plug.toml's head lists")
    given = {"label": word.replace("-", " "), **entry}
    return PlugWord(**{key: tuple(v) if isinstance(v, list) else v for key, v in given.items()})  # type: ignore[arg-type]


def plug_phrases() -> dict[str, dict[str, str]]:
    """How findings of a plug are said, by channel and value, as `phrases.toml` has the others."""
    said: dict[str, dict[str, str]] = {}
    for field, words in plug_words().items():
        for word, entry in words.items():
            if entry.denies:
                said[f"plug/{field}:{word}"] = {"yes": entry.says, "no": entry.denies}
            elif entry.says:
                said.setdefault(f"plug/{field}", {})[word] = entry.says
    return said
