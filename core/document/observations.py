"""The log behind a document: one observation sets one field, the document is their fold.

A path looks like a JSON Pointer whose list items are named by their identity, not by their
place: `/cylinders/2/plug/gap` is cylinder 2's, `/tests/compression/dry-1/readings/3/pressure`
the third cylinder's in the test called `dry-1`. So two people can write at once, and the same
set of observations gives the same document whatever else arrived in between.
A value of None takes the field, or the whole item, back to "not looked at".
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from operator import itemgetter
from typing import Any

from core.document.reading import check_document, pointer, validator, whole_numbers, without_nulls
from core.document.schema import SCHEMA
from core.document.writing import canonical, ordered
from core.errors import CoreError
from core.language import say

Observation = tuple[str, Any]
NUMBER = re.compile(r"[1-9][0-9]?")


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
        raise CoreError("path", path, None, say("a path such as /cylinders/2/plug/gap"))
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
    return fold_onto(canonical(document) if document else {}, observations)


def fold_onto(document: dict[str, Any], observations: Iterable[Observation]) -> dict[str, Any]:
    """The same on top of a canonical document; what no path touches is the very same object."""
    folded = document
    for path, value in observations:
        put = _Put(path, without_nulls(value))
        folded = put.into(folded, SCHEMA, "", 0) or {}
    return folded


def apply(document: dict[str, Any], observations: Iterable[Observation]) -> dict[str, Any]:
    """Fold observations onto a valid document and refuse what would break it.

    Raises
    ------
    CoreError, DocumentRefused
        Nothing of the batch is applied then.
    """
    return check_document(fold(observations, document))


class _Put:
    """One value on its way to its place; what it goes through is made anew, the rest shared."""

    def __init__(self, path: str, value: Any) -> None:
        self.path = path
        self.value = value
        self.steps = field_steps(path)

    def into(self, target: Any, schema: dict[str, Any], place: str, at: int) -> Any:
        """The target with the value put in, in canonical order; None where nothing is left of it.

        `place` is where the schema stands, `at` how many steps are behind.
        """
        if at == len(self.steps):
            return self._leaf(schema, place)
        if "x-key" in schema:
            return self._into_list(target or [], schema, place, at)
        return self._into_group(target or {}, schema, place, at)

    def _leaf(self, schema: dict[str, Any], place: str) -> Any:
        if self.value is None:
            return None
        in_parts = "x-key" in schema and "x-whole" not in schema
        if in_parts or ("properties" in schema and "x-dimension" not in schema):
            raise CoreError(
                "path",
                self.path,
                self.value,
                say("a single field; lists and groups are set field by field"),
            )
        error = next(validator(place).iter_errors(self.value), None)
        if error is not None:
            told = error.message.replace(repr(error.instance), "this")
            raise CoreError("value", self.path, self.value, told)
        return ordered(whole_numbers(self.value, schema), schema)

    def _into_group(
        self, target: dict[str, Any], schema: dict[str, Any], place: str, at: int
    ) -> dict[str, Any] | None:
        step = self.steps[at]
        if "x-dimension" in schema or step not in schema.get("properties", {}):
            raise CoreError("unknown-field", self.path, self.value, say("a field of the contract"))
        made = self.into(target.get(step), schema["properties"][step], f"{place}/{step}", at + 1)
        if made is None or made == {}:
            return {field: one for field, one in target.items() if field != step} or None
        if step in target:
            return {**target, step: made}
        return {
            field: made if field == step else target[field]
            for field in schema["properties"]
            if field == step or field in target
        }

    def _into_list(
        self, target: list[dict[str, Any]], schema: dict[str, Any], place: str, at: int
    ) -> list[dict[str, Any]] | None:
        key, fields = schema["x-key"], schema["items"]
        identity = self._identity(fields["properties"][key], at)
        if self.steps[at + 1 :] == [key]:
            raise CoreError(
                "path", self.path, self.value, say("a field; what names an item cannot be changed")
            )
        known = next((item for item in target if item.get(key) == identity), None)
        if known is None and self.value is None:
            self.into({}, fields, f"{place}/*", at + 1)  # It may be no field at all.
            return target or None
        made = self.into(known or {key: identity}, fields, f"{place}/*", at + 1)
        if made is None or set(made) <= {"number", "cylinder"}:
            return [item for item in target if item is not known] or None
        if known is not None:
            return [made if item is known else item for item in target]
        longer = [*target, made]
        return sorted(longer, key=itemgetter(key)) if key in ("number", "cylinder") else longer

    def _identity(self, schema: dict[str, Any], at: int) -> Any:
        step = self.steps[at]
        if schema.get("type") != "integer":
            return step
        # One place, one spelling: 03 and other scripts' figures are no other names of 3.
        if not NUMBER.fullmatch(step):
            raise CoreError("path", self.path, step, say("the number of a cylinder"))
        return int(step)
