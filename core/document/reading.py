"""From bytes to a checked document, or to every reason why not."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Sequence
from functools import cache
from itertools import islice
from math import isfinite
from typing import Any

from jsonschema import Draft202012Validator, validators
from jsonschema.exceptions import ValidationError

from core.document import limits
from core.document.schema import SCHEMA
from core.errors import CoreError, DocumentRefused
from core.language import say

MOST_BYTES = 5 * 1024 * 1024
MOST_NESTING = 32
MOST_PROBLEMS = 100
MOST_LOOKED_AT = 10 * MOST_PROBLEMS  # Of which the first by their place are told.
MOST_IN_A_LIST = 1000  # Where the contract bounds a list by its words alone.
MARK = re.compile(r'"(?:[^"\\]|\\.)*"|[\[\]{}]', re.DOTALL)
LARGEST = 10**15  # Whole numbers up to here are the same in every program that reads JSON.
HALF_A_CHARACTER = re.compile("[\ud800-\udfff]")


def _each_once(
    validator: Any, unique: bool, instance: Any, schema: dict[str, Any]
) -> Iterator[ValidationError]:
    """`uniqueItems` in one pass; of a list that is too long that alone is said."""
    if not unique or not isinstance(instance, list) or _too_long(instance, schema):
        return
    if len({json.dumps(one, sort_keys=True) for one in instance}) < len(instance):
        yield ValidationError("each entry once")


def _each_item(
    validator: Any, items: Any, instance: Any, schema: dict[str, Any]
) -> Iterator[ValidationError]:
    """`items`, but of a list that is too long: nobody reads what is said of its thousandth."""
    if not isinstance(instance, list):
        return
    if not _too_long(instance, schema):
        yield from Draft202012Validator.VALIDATORS["items"](validator, items, instance, schema)
    elif "maxItems" not in schema:
        yield ValidationError("too long", validator="maxItems", validator_value=MOST_IN_A_LIST)


def _too_long(instance: list[Any], schema: dict[str, Any]) -> bool:
    most: int = schema.get("maxItems", MOST_IN_A_LIST)
    return len(instance) > most


Linear: Any = validators.extend(  # type: ignore[no-untyped-call]
    Draft202012Validator, {"uniqueItems": _each_once, "items": _each_item}
)
"""The standard's validator, whose work grows no faster than what it is given."""


@cache
def validator(pointer: str = "") -> Any:
    """The validator of the whole document, or of one field's schema (for the log)."""
    return Linear(limits.schema_at(pointer))


def read_document(data: bytes) -> dict[str, Any]:
    """Read an inspection document.

    Parameters
    ----------
    data : bytes
        UTF-8 JSON, at most 5 MB.

    Returns
    -------
    dict
        The document without its nulls (null means: not looked at).

    Raises
    ------
    DocumentRefused
        With every problem found, each naming a JSON Pointer (RFC 6901).
    """
    return check_document(parse_json(data))


def parse_json(data: bytes) -> Any:
    """JSON of one meaning only: no duplicate keys, no NaN, no depth to drown in.

    Raises
    ------
    DocumentRefused
        With every problem found, each naming a JSON Pointer.
    """
    if len(data) > MOST_BYTES:
        raise DocumentRefused(
            [CoreError("too-large", "", len(data), say("a document of at most 5 MB"))]
        )
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise DocumentRefused(
            [CoreError("not-utf-8", "", data[error.start : error.start + 8], say("UTF-8 text"))]
        ) from None
    _refuse_deep(text)
    found: list[CoreError] = []
    try:
        raw = json.loads(text, object_pairs_hook=_PairsOnce(found), parse_constant=float)
    except json.JSONDecodeError as error:
        place = say(
            "JSON; line {line}, column {column}: {what}",
            line=error.lineno,
            column=error.colno,
            what=error.msg,
        )
        raise DocumentRefused([CoreError("not-json", "", text[:40], place)]) from None
    except (ValueError, RecursionError) as error:
        raise DocumentRefused(
            [CoreError("not-json", "", str(error), say("a finite number"))]
        ) from None
    if found:
        raise DocumentRefused(_placed_duplicates(raw, found))
    return raw


def check_document(raw: Any) -> dict[str, Any]:
    """Check a parsed document against the contract; `read_document` for bytes.

    Raises
    ------
    DocumentRefused
        With every problem found.
    """
    document = without_nulls(raw)
    found = list(_shape_problems([(document, "", [])]))
    if not found:
        document = whole_numbers(document, SCHEMA)
        found = list(limits.problems(document))
    if found:
        raise DocumentRefused(found[:MOST_PROBLEMS])
    return document  # type: ignore[no-any-return]


def check_change(document: dict[str, Any], known: dict[str, Any]) -> dict[str, Any]:
    """Check a document that came from a checked one by values that each suited their field.

    Of what a part says by itself only what differs is looked at; what parts say of each other is
    checked as a whole.

    Raises
    ------
    DocumentRefused
        With every problem found.
    """
    parts = list(_differing(document, known, "", []))
    found = list(_shape_problems(parts)) or list(limits.problems(document, parts))
    if found:
        raise DocumentRefused(found[:MOST_PROBLEMS])
    return document


def check_part(raw: Any, schema: dict[str, Any]) -> dict[str, Any]:
    """Check something that is spelt as the contract spells its parts.

    Raises
    ------
    DocumentRefused
        With every problem found, each by its path.
    """
    part = without_nulls(raw)
    errors = islice(Linear(schema).iter_errors(part), MOST_LOOKED_AT)
    found = [problem for error in errors for problem in translated(error)]
    if not found:
        found = list(not_finite(part, []))
    if not found:
        found = list(limits.beyond_instruments(part, schema))
    if found:
        raise DocumentRefused(found)
    return part  # type: ignore[no-any-return]


def without_nulls(value: Any) -> Any:
    """The same value with every null field left out: null is "not looked at"."""
    if isinstance(value, dict):
        return {key: without_nulls(inner) for key, inner in value.items() if inner is not None}
    if isinstance(value, list):
        return [without_nulls(inner) for inner in value]
    return value


def whole_numbers(value: Any, schema: dict[str, Any]) -> Any:
    """The same with 4.0 as 4 where the schema wants an integer: JSON knows no difference."""
    if isinstance(value, float) and schema.get("type") == "integer":
        return int(value)
    if isinstance(value, dict):
        known = schema.get("properties", {})
        return {name: whole_numbers(one, known.get(name, {})) for name, one in value.items()}
    if isinstance(value, list):
        return [whole_numbers(one, schema.get("items", {})) for one in value]
    return value


def pointer(steps: Any) -> str:
    """A JSON Pointer from its steps."""
    return "".join("/" + str(step).replace("~", "~0").replace("/", "~1") for step in steps)


class _PairsOnce:
    """Builds objects and remembers keys that were given twice."""

    def __init__(self, found: list[CoreError]) -> None:
        self.found = found

    def __call__(self, pairs: list[tuple[str, Any]]) -> dict[str, Any]:
        built: dict[str, Any] = {}
        for key, value in pairs:
            if key in built:
                self.found.append(
                    CoreError("duplicate-key", pointer([key]), key, say("each key once"))
                )
                built.setdefault("\0twice", []).append(key)
            built[key] = value
        return built


def _placed_duplicates(raw: Any, found: list[CoreError]) -> list[CoreError]:
    """Give each duplicate key its full pointer; the parser only knew the object."""
    placed: list[CoreError] = []
    stack: list[tuple[Any, list[Any]]] = [(raw, [])]
    while stack:
        value, steps = stack.pop()
        if isinstance(value, dict):
            for key in value.get("\0twice", []):
                placed.append(
                    CoreError("duplicate-key", pointer([*steps, key]), key, say("each key once"))
                )
            stack.extend((inner, [*steps, key]) for key, inner in value.items() if key != "\0twice")
        elif isinstance(value, list):
            stack.extend((inner, [*steps, index]) for index, inner in enumerate(value))
    return placed or found


def _refuse_deep(text: str) -> None:
    """Refuse nesting over 32 before a parser recurses into it."""
    depth = 0
    for mark in MARK.finditer(text):
        if mark.group() in "[{":
            depth += 1
            if depth > MOST_NESTING:
                expected = say("nesting of at most {most}", most=MOST_NESTING)
                raise DocumentRefused([CoreError("too-deep", "", depth, expected)])
        elif mark.group() in "]}":
            depth -= 1


Part = tuple[Any, str, list[Any]]
"""A part of a document: itself, its schema's place, its path."""


def _shape_problems(parts: Sequence[Part]) -> Iterator[CoreError]:
    for part, _, steps in parts:
        yield from not_finite(part, steps)
    errors = []
    for part, place, steps in parts:
        found = islice(validator(place).iter_errors(part), MOST_LOOKED_AT)
        errors += [(error, [*steps, *error.absolute_path]) for error in found]
    for error, path in sorted(errors, key=lambda one: [str(step) for step in one[1]]):
        yield from translated(error, path)


def _differing(value: Any, known: Any, place: str, steps: list[Any]) -> Iterator[Part]:
    """Each part that is not as it was in a known document.

    A group whose fields are the same ones is looked into; so is a list whose items have names.
    """
    if known is not None and value == known:
        return
    schema: dict[str, Any] = validator(place).schema
    if isinstance(value, dict) and isinstance(known, dict) and value.keys() == known.keys():
        if "x-dimension" not in schema and "properties" in schema:
            for field, inner in value.items():
                yield from _differing(inner, known[field], f"{place}/{field}", [*steps, field])
            return
    elif isinstance(value, list) and isinstance(known, list) and "x-key" in schema:
        key = schema["x-key"]
        before = {item.get(key): item for item in known}
        for index, item in enumerate(value):
            old = before.get(item.get(key)) if isinstance(item, dict) else None
            yield from _differing(item, old, f"{place}/*", [*steps, index])
        return
    yield value, place, steps


def not_finite(value: Any, steps: list[Any]) -> Iterator[CoreError]:
    """1e999 parses as infinity; no instrument shows it. Yields each such number, by its pointer."""
    if isinstance(value, dict):
        for key, inner in value.items():
            yield from not_finite(inner, [*steps, key])
    elif isinstance(value, list):
        for index, inner in enumerate(value):
            yield from not_finite(inner, [*steps, index])
    elif isinstance(value, float) and not isfinite(value):
        yield CoreError("not-finite", pointer(steps), value, say("a finite number"))
    elif isinstance(value, int | float) and abs(value) > LARGEST:
        yield CoreError("range", pointer(steps), value, say("a number that a figure can hold"))
    elif isinstance(value, str) and "\0" in value:
        yield CoreError("text", pointer(steps), value, say("text without the null character"))
    elif isinstance(value, str) and not value.isascii() and HALF_A_CHARACTER.search(value):
        yield CoreError("text", pointer(steps), ascii(value), say("text of whole characters"))


def translated(error: ValidationError, path: list[Any] | None = None) -> Iterator[CoreError]:
    """The validator's complaint in the house's words; `path` where it is not the error's own."""
    path = list(error.absolute_path) if path is None else path
    schema: Any = error.schema
    instance: Any = error.instance
    match error.validator:
        case "additionalProperties" if isinstance(error.instance, dict):
            known = list(schema.get("properties", {}))
            for key in error.instance:
                if key not in known:
                    yield CoreError(
                        "unknown-field",
                        pointer([*path, key]),
                        key,
                        say("one of {known}", known=_listed(known)),
                    )
        case "required":
            for key in schema["required"]:
                if repr(key) in error.message and key not in instance:
                    yield CoreError(
                        "missing", pointer([*path, key]), None, say("{key} is required", key=key)
                    )
        case "enum":
            known = [str(word) for word in schema["enum"]]
            code = "unit" if path and path[-1] == "unit" else "unknown-word"
            yield CoreError(
                code, pointer(path), error.instance, say("one of {known}", known=_listed(known))
            )
        case "const":
            yield CoreError("format", pointer(path), error.instance, repr(schema["const"]))
        case "type":
            yield CoreError(
                "type",
                pointer(path),
                error.instance,
                say("a value of type {kind}", kind=schema["type"]),
            )
        case "anyOf":
            yield CoreError("type", pointer(path), instance, say("a number, or one with its unit"))
        case "uniqueItems":
            yield CoreError("twice", pointer(path), error.instance, say("each entry once"))
        case "maxLength":
            yield CoreError(
                "too-long", pointer(path), error.instance, say("at most 10,000 characters")
            )
        case _:
            yield CoreError("range", pointer(path), error.instance, _expectation(error))


def _listed(words: list[str]) -> str:
    return ", ".join(words)


def _expectation(error: ValidationError) -> str:
    """What the schema asked for, e.g. "minimum 1"."""
    limit = error.validator_value
    named = {
        "minimum": say("at least {limit}", limit=limit),
        "maximum": say("at most {limit}", limit=limit),
        "exclusiveMinimum": say("more than {limit}", limit=limit),
        "maxItems": say("at most {limit} entries", limit=limit),
        "pattern": say("text of the form {limit}", limit=limit),
    }
    return named.get(str(error.validator), f"{error.validator} {limit}")
