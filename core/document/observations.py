"""The log behind a document: one observation sets one field, the document is their fold.

A path looks like a JSON Pointer whose list items are named by their identity, not by their
place: `/cylinders/2/plug/gap` is cylinder 2's, `/tests/compression/dry-1/readings/3/pressure`
the third cylinder's in the test called `dry-1`. So two people can write at once, and the same
set of observations gives the same document whatever else arrived in between.
A value of None takes the field, or the whole item, back to "not looked at".
"""

from __future__ import annotations

import copy
from collections.abc import Iterable, Iterator
from typing import Any

from core.document.reading import check_document, pointer, validator, whole_numbers, without_nulls
from core.document.schema import SCHEMA
from core.document.writing import canonical
from core.errors import CoreError

Observation = tuple[str, Any]


def unfold(document: dict[str, Any]) -> list[Observation]:
    """The observations that make up a checked document, in its own order."""
    return list(_unfold(canonical(document), SCHEMA, ""))


def _unfold(
    value: Any, schema: dict[str, Any], path: str, identity: str | None = None
) -> Iterator[Observation]:
    if "x-key" in schema:
        key = schema["x-key"]
        for item in value:
            step = pointer([item[key]])
            yield from _unfold(item, schema["items"], f"{path}{step}", key)
    elif "properties" in schema and "x-dimension" not in schema:
        for field, inner in value.items():
            if field == identity:
                continue
            yield from _unfold(inner, schema["properties"][field], f"{path}/{field}")
    else:
        yield path, value


def field_steps(path: str) -> list[str]:
    """The steps of a path, unescaped (RFC 6901).

    Raises
    ------
    CoreError
        If it does not begin with a stroke, or a step is empty.
    """
    steps = [step.replace("~1", "/").replace("~0", "~") for step in path.split("/")[1:]]
    if not path.startswith("/") or not all(steps):
        raise CoreError("path", path, None, "a path such as /cylinders/2/plug/gap")
    return steps


def fold(
    observations: Iterable[Observation], document: dict[str, Any] | None = None
) -> dict[str, Any]:
    """The document that observations make, on top of an earlier one if given.

    Parameters
    ----------
    observations : iterable of (path, value)
        In the order in which they were accepted.
    document : dict, optional
        What was folded before; it is not changed.

    Returns
    -------
    dict
        The canonical document. Not yet checked as a whole: see `apply`.

    Raises
    ------
    CoreError
        If a path names no field of the contract, or a value does not suit its field.
    """
    folded = copy.deepcopy(document) if document is not None else {}
    for path, value in observations:
        _set(folded, path, without_nulls(value))
    return canonical(folded)


def apply(document: dict[str, Any], observations: Iterable[Observation]) -> dict[str, Any]:
    """Fold observations onto a valid document and refuse what would break it.

    Raises
    ------
    CoreError, DocumentRefused
        Nothing of the batch is applied then.
    """
    return check_document(fold(observations, document), document)


def _set(document: dict[str, Any], path: str, value: Any) -> None:
    steps = field_steps(path)
    target: Any = document
    schema: dict[str, Any] = SCHEMA
    schema_path = ""
    identity = ""
    trail: list[tuple[Any, Any]] = []
    for index, step in enumerate(steps):
        last = index == len(steps) - 1
        if "x-key" in schema:
            item, place = _item(target, schema, step, path, create=value is not None)
            if item is None:
                return
            trail.append((target, place))
            identity = schema["x-key"]
            schema, schema_path = schema["items"], schema_path + "/*"
            target = item
            if last and value is None:
                break
            continue
        if "x-dimension" in schema or step not in schema.get("properties", {}):
            raise CoreError("unknown-field", path, value, "a field of the contract")
        if isinstance(trail[-1][0] if trail else None, list) and step == identity:
            raise CoreError("path", path, value, "a field; what names an item cannot be changed")
        schema, schema_path = schema["properties"][step], f"{schema_path}/{step}"
        trail.append((target, step))
        if last:
            break
        if step not in target:
            if value is None:
                return
            target[step] = [] if "x-key" in schema else {}
        target = target[step]
    if value is None:
        _take_out(trail)
        return
    if "x-key" in schema or ("properties" in schema and "x-dimension" not in schema):
        raise CoreError(
            "path", path, value, "a single field; lists and groups are set field by field"
        )
    error = next(validator(schema_path).iter_errors(value), None)
    if error is not None:
        raise CoreError("value", path, value, error.message.replace(repr(error.instance), "this"))
    holder, place = trail[-1]
    holder[place] = whole_numbers(value, schema)


def _item(
    items: list[dict[str, Any]], schema: dict[str, Any], step: str, path: str, *, create: bool
) -> tuple[dict[str, Any] | None, int]:
    """The item of a list that a step names, made if it is not there yet."""
    key = schema["x-key"]
    identity: Any = step
    if schema["items"]["properties"][key].get("type") == "integer":
        if not step.isdecimal() or len(step) > 2:
            raise CoreError("path", path, step, "the number of a cylinder")
        identity = int(step)
    for place, item in enumerate(items):
        if item.get(key) == identity:
            return item, place
    if not create:
        return None, -1
    items.append({key: identity})
    return items[-1], len(items) - 1


def _take_out(trail: list[tuple[Any, Any]]) -> None:
    """Remove a field and every item that is left with nothing but its name."""
    holder, place = trail[-1]
    if isinstance(holder, list):
        del holder[place]
    else:
        holder.pop(place, None)
    for (outer, at), (inner, _) in zip(reversed(trail[:-1]), reversed(trail[1:]), strict=True):
        bare = not inner or (isinstance(outer, list) and set(inner) <= {"number", "cylinder"})
        if not bare:
            return
        if isinstance(outer, list):
            del outer[at]
        else:
            outer.pop(at, None)
