"""Every text that the core and the reports say, and its catalogue in each language.

`python -m tools.generate` adds what is new to the catalogues (gettext's format, in `core/locale`)
and takes out what nobody says any more; a text without a translation fails the check.
"""

from __future__ import annotations

import ast
import re
import tomllib
from collections.abc import Iterator
from io import BytesIO
from typing import Any, Literal, get_args, get_origin

from babel.messages.catalog import Catalog
from babel.messages.pofile import read_po, write_po

from core.quantities import DIMENSION_OF
from tools.machine import ROOT

LOCALE = ROOT / "core" / "locale"
SAID = ("say", "later")
IN_TEMPLATE = re.compile(r'{% say "([^"]+)"')
PYTHON = ("core", "server/reports", "server/clients")
TEMPLATES = ROOT / "server" / "reports" / "templates"
# Which columns of a table are said: by file, the names of its texts, "*" for every one.
TABLES: dict[str, tuple[str, ...]] = {
    "core/knowledge/contradictions.toml": ("says",),
    "core/knowledge/faults.toml": ("label",),
    "core/knowledge/phrases.toml": ("*",),
    "core/knowledge/plug.toml": ("says", "denies"),
    "core/knowledge/judgement.toml": ("reason", "text", "open", "catalyst", "four_stroke"),
    "core/knowledge/tests.toml": ("label", "tells", "results", "tells_alone", "results_alone"),
    "core/knowledge/consequences.toml": ("grade_words", "told"),
    "core/knowledge/plan.toml": ("text", "title", "why", "step.note"),
    "core/knowledge/bench.toml": ("text", "fit_step.note"),
    "core/knowledge/pressure.toml": ("leakdown_school.label",),
    "core/telling/words.toml": ("*",),
    "core/knowledge/case.toml": ("says", "many", "client", "lifts"),
}
NOT_SAID = ("source", "shows")


def texts() -> dict[str, list[str]]:
    """Every text with the files that say it, in their order."""
    found: dict[str, list[str]] = {}
    for file, text in (*_of_code(), *_of_templates(), *_of_tables(), *_of_the_contract()):
        places = found.setdefault(text, [])
        if file not in places:
            places.append(file)
    return found


def catalogue(language: str) -> tuple[str, list[str]]:
    """The catalogue of a language as it should be, and the texts that it has no words for."""
    path = LOCALE / f"{language}.po"
    known = Catalog(locale=language)
    if path.exists():
        with path.open("rb") as file:
            known = read_po(file, locale=language)
    made = Catalog(locale=language, header_comment=HEADER, fuzzy=False)
    missing = []
    for text, places in sorted(texts().items(), key=lambda one: (one[1][0], one[0])):
        old = known.get(text)
        told = str(old.string) if old and old.string else ""
        made.add(text, told, locations=[(place, 0) for place in places[:2]])
        if not told:
            missing.append(text)
    written = BytesIO()
    write_po(written, made, width=100, omit_header=True, include_lineno=False)
    return HEADER + written.getvalue().decode(), missing


HEADER = """\
# What the core and the reports say. No native speaker has read it yet.
# Kept by python -m tools.generate, which adds what is new and drops what nobody says any more.
msgid ""
msgstr ""
"Content-Type: text/plain; charset=utf-8\\n"

"""


def _of_code() -> Iterator[tuple[str, str]]:
    for folder in PYTHON:
        for path in sorted((ROOT / folder).rglob("*.py")):
            if "tests" in path.parts:
                continue
            name = str(path.relative_to(ROOT))
            for node in ast.walk(ast.parse(path.read_text("utf-8"))):
                if isinstance(node, ast.Call) and _called(node) in SAID and node.args:
                    first = node.args[0]
                    if isinstance(first, ast.Constant) and isinstance(first.value, str):
                        yield name, first.value


def _called(node: ast.Call) -> str:
    return node.func.id if isinstance(node.func, ast.Name) else ""


def _of_templates() -> Iterator[tuple[str, str]]:
    for path in sorted(TEMPLATES.glob("*.html")):
        for text in IN_TEMPLATE.findall(path.read_text("utf-8")):
            yield str(path.relative_to(ROOT)), text


def _of_tables() -> Iterator[tuple[str, str]]:
    for name, wanted in TABLES.items():
        table = tomllib.loads((ROOT / name).read_text("utf-8"))
        for path, text in _leaves(table, ()):
            if not set(path) & set(NOT_SAID) and _wanted(path, wanted):
                yield name, text


def _wanted(path: tuple[str, ...], wanted: tuple[str, ...]) -> bool:
    if path[-1] == "note":
        return ".".join(path) in wanted
    return wanted == ("*",) or any(one in path or one == ".".join(path) for one in wanted)


def _leaves(value: Any, path: tuple[str, ...]) -> Iterator[tuple[tuple[str, ...], str]]:
    if isinstance(value, dict):
        for name, one in value.items():
            yield from _leaves(one, (*path, name))
    elif isinstance(value, list):
        for one in value:
            yield from _leaves(one, path)
    elif isinstance(value, str) and value:
        yield path, value


def _of_the_contract() -> Iterator[tuple[str, str]]:
    """Its fields and the words of its closed lists, as they are said."""
    from core import vocabulary
    from core.document.schema import SCHEMA
    from core.language import spaced
    from core.refit.put_right import ONE_EACH

    for name in _names(SCHEMA):
        yield "core/document/schema.py", spaced(name)
    for words in vars(vocabulary).values():
        for word in get_args(words) if get_origin(words) is Literal else ():
            yield "core/vocabulary.py", spaced(word)
    for word in ("small", "large", "within", "early", "late"):  # Of figures beside their limits.
        yield "core/evidence/shared_findings.py", word
    for part in ONE_EACH:
        yield "core/refit/put_right.py", spaced(f"{part}s")


def _names(schema: Any) -> Iterator[str]:
    if isinstance(schema, list):
        for one in schema:
            yield from _names(one)
    if isinstance(schema, dict):
        for name, one in schema.get("properties", {}).items():
            yield name
            yield from _names(one)
        for key in ("items", "anyOf", "oneOf", "additionalProperties", "$defs"):
            if key in schema:
                yield from _names(schema[key])
        words = (word for word in schema.get("enum", ()) if isinstance(word, str))
        yield from (word for word in words if word not in DIMENSION_OF)
