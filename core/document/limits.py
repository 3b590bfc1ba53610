"""What no instrument could show, and what the parts of a document must agree on.

The schema knows shapes and words; these rules know the trade. A rule yields problems,
it never stops at the first.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from datetime import date
from functools import cache
from typing import Any

from core.document.job import still_to_torque
from core.document.records import Document, MissingPiece, RefusedPlug, Said
from core.document.schema import SCHEMA
from core.document.shapes import MOST_ITEMS
from core.errors import CoreError
from core.language import say
from core.quantities import Dimension, Quantity

MOST_TESTS = 40  # Of one kind.
MOST_READINGS = 400  # Of all tests together.
GAUGE_LIMIT_PA = 150e5
GAP_LIMIT_MM = 100.0

GAPS = (
    "gap", "gap_passes", "gap_refuses", "gap_blades", "arrived_gap", "gap_min", "gap_max",
    "points_gap", "points_gap_min", "points_gap_max", "timing_gap",
)  # fmt: skip
NO_DATE = "2000-01-01"


def problem(code: str, path: str, value: Any, expected: str) -> CoreError:
    return CoreError(code, path, value, expected)


def beyond_instruments(
    document: dict[str, Any], schema: dict[str, Any] = SCHEMA
) -> Iterator[CoreError]:
    """Quantities that no instrument could show."""
    yield from _beyond(quantities(document, schema))


def _beyond(found: Iterable[tuple[str, str, dict[str, Any], list[str]]]) -> Iterator[CoreError]:
    for path, name, raw, dimensions in found:
        if len(dimensions) != 1:
            if raw["value"] < 0:
                yield problem("range", path, raw["value"], say("zero or more"))
            continue
        yield from one_quantity(path, name, raw, Dimension(dimensions[0]))


def one_quantity(
    path: str, name: str, raw: dict[str, Any], dimension: Dimension
) -> Iterator[CoreError]:
    try:
        si = Quantity(float(raw["value"]), raw["unit"], dimension).si
    except OverflowError:
        yield problem("range", path, raw["value"], say("a number that a figure can hold"))
        return
    if dimension is Dimension.PRESSURE and not 0 <= si <= GAUGE_LIMIT_PA:
        yield problem("range", path, raw, say("a gauge pressure from 0 to 150 bar"))
    elif dimension is Dimension.LENGTH and si <= 0:
        yield problem("range", path, raw, say("a length above zero"))
    elif dimension is Dimension.LENGTH and name in GAPS and si * 1000 > GAP_LIMIT_MM:
        yield problem("range", path, raw, say("a gap of at most 100 mm"))
    elif dimension is Dimension.LENGTH and si > 10:
        yield problem("range", path, raw, say("a length of at most 10 m"))
    elif dimension is Dimension.TEMPERATURE and not 150 <= si <= 1500:
        yield problem("range", path, raw, say("a temperature that an engine bay can have"))
    elif dimension in (Dimension.TORQUE, Dimension.VOLUME) and si <= 0:
        yield problem("range", path, raw, say("more than zero"))
    elif dimension is Dimension.DISTANCE and not 0 <= si <= 1e7:
        yield problem("range", path, raw, say("a distance from zero to ten million"))


def schema_at(place: str) -> dict[str, Any]:
    """A part of the schema, by its place: fields and * for an item."""
    schema: dict[str, Any] = SCHEMA
    for step in place.split("/")[1:]:
        schema = schema["items"] if step == "*" else schema["properties"][step]
    return schema


def quantities(
    document: dict[str, Any], schema: dict[str, Any] = SCHEMA
) -> Iterator[tuple[str, str, dict[str, Any], list[str]]]:
    """Every quantity of a schema-valid document: pointer, field, raw value, dimensions.

    Those that may have either sign (`x-signed`) are left out: no limit of an instrument is theirs.
    """
    yield from _quantities(document, schema, "", "")


def _quantities(
    value: Any, schema: dict[str, Any], path: str, name: str
) -> Iterator[tuple[str, str, dict[str, Any], list[str]]]:
    if "x-dimension" in schema:
        if not schema.get("x-signed"):
            yield path, name, value, schema["x-dimension"]
    elif isinstance(value, dict):
        for field, inner in value.items():
            inner_schema = schema.get("properties", {}).get(field)
            if inner_schema is not None:
                yield from _quantities(inner, inner_schema, f"{path}/{field}", field)
    elif isinstance(value, list):
        for index, inner in enumerate(value):
            yield from _quantities(inner, schema.get("items", {}), f"{path}/{index}", name)


def groups_exist(document: Document) -> Iterator[CoreError]:
    """Banks, carburettors and the firing order name cylinders that the engine has, each once."""
    engine, expected = document.engine, _of_engine(document.engine.cylinders)
    for field, groups in (("banks", engine.banks), ("feeds", engine.feeds)):
        named: dict[int, str] = {}
        for index, group in enumerate(groups):
            for place, number in enumerate(group.cylinders):
                path = f"/engine/{field}/{index}/cylinders/{place}"
                if number > engine.cylinders:
                    yield problem("cylinder", path, number, expected)
                elif number in named:
                    yield problem(
                        "cylinder-twice",
                        path,
                        number,
                        say("once; also at {named}", named=named[number]),
                    )
                named[number] = path
    for place, number in enumerate(engine.firing_order):
        if number > engine.cylinders:
            yield problem("cylinder", f"/engine/firing_order/{place}", number, expected)


def _of_engine(count: int) -> str:
    return say("a cylinder from 1 to {count}", count=count)


def cylinders_exist(document: dict[str, Any]) -> Iterator[CoreError]:
    """Every item of a list by cylinder names one that the engine has, and each of them once."""
    count = document["engine"]["cylinders"]
    for path, items, key in keyed_lists(document):
        if key not in ("number", "cylinder"):
            continue
        seen: set[int] = set()
        for index, item in enumerate(items):
            number = item[key]
            if number > count:
                yield problem("cylinder", f"{path}/{index}/{key}", number, _of_engine(count))
            elif number in seen:
                yield problem(
                    "cylinder-twice",
                    f"{path}/{index}/{key}",
                    number,
                    say("each cylinder once in a list"),
                )
            seen.add(number)


def swaps_have_two_ends(document: Document) -> Iterator[CoreError]:
    """A part was moved from one cylinder of the engine to another."""
    count = document.engine.cylinders
    for index, swap in enumerate(document.tests.swap):
        path = f"/tests/swap/{index}"
        for end, number in (("from", swap.source), ("to", swap.target)):
            if number > count:
                yield problem("cylinder", f"{path}/{end}", number, _of_engine(count))
        if swap.source == swap.target:
            expected = say("another cylinder than the part came from")
            yield problem("swap", f"{path}/to", swap.target, expected)


def keyed_lists(document: dict[str, Any]) -> Iterator[tuple[str, list[dict[str, Any]], str]]:
    """Every list whose items have an identity: pointer, items, identifying field."""
    stack: list[tuple[Any, dict[str, Any], str]] = [(document, SCHEMA, "")]
    while stack:
        value, schema, path = stack.pop()
        if isinstance(value, dict):
            for field, inner in _holding_lists(id(schema)):
                if field in value:
                    stack.append((value[field], inner, f"{path}/{field}"))
        elif isinstance(value, list) and "x-key" in schema:
            yield path, value, schema["x-key"]
            for index, item in enumerate(value):
                stack.append((item, schema["items"], f"{path}/{index}"))


@cache
def _fields_by_schema() -> dict[int, list[tuple[str, dict[str, Any]]]]:
    """By each group's schema, its fields that hold lists with an identity, however deep."""
    found: dict[int, list[tuple[str, dict[str, Any]]]] = {}

    def holds(schema: dict[str, Any]) -> bool:
        inner = schema.get("items", {}) if "x-key" in schema else schema
        fields = [one for one in inner.get("properties", {}).items() if holds(one[1])]
        found[id(inner)] = fields
        return bool(fields) or "x-key" in schema

    holds(SCHEMA)
    return found


def _holding_lists(schema: int) -> list[tuple[str, dict[str, Any]]]:
    return _fields_by_schema().get(schema, [])


def items_named_once(document: dict[str, Any]) -> Iterator[CoreError]:
    """No two banks, feeds or tests carry one name."""
    for path, items, key in keyed_lists(document):
        if key not in ("id", "name"):
            continue
        seen: set[str] = set()
        for index, item in enumerate(items):
            name = item.get(key)
            if name is not None and name in seen:
                yield problem(
                    "twice",
                    f"{path}/{index}/{key}",
                    name,
                    say("each {key} once in a list", key=key),
                )
            if name is not None:
                seen.add(name)


def few_enough(document: dict[str, Any]) -> Iterator[CoreError]:
    """No more tests, readings and items than a record of one engine holds."""
    readings = 0
    for path, items, key in keyed_lists(document):
        most = MOST_TESTS if path.startswith("/tests/") and key == "id" else MOST_ITEMS
        if path.endswith("/readings"):
            readings += len(items)
        elif len(items) > most:
            yield problem("too-many", path, len(items), say("at most {most} entries", most=most))
    if readings > MOST_READINGS:
        expected = say("at most {most} readings in all", most=MOST_READINGS)
        yield problem("too-many", "/tests", readings, expected)


def layout_agrees(document: Document) -> Iterator[CoreError]:
    """Cylinder count, banks and firing order belong to one engine."""
    engine = document.engine
    count, order = engine.cylinders, list(engine.firing_order)
    if engine.layout == "single" and count != 1:
        yield problem("layout", "/engine/cylinders", count, say("1 for a single-cylinder engine"))
    if order and sorted(order) != list(range(1, count + 1)):
        yield problem(
            "firing-order",
            "/engine/firing_order",
            order,
            say("each of the {count} cylinders once", count=count),
        )
    if engine.banks:
        named = {number for bank in engine.banks for number in bank.cylinders}
        missing = sorted(set(range(1, count + 1)) - named)
        if missing:
            yield problem(
                "banks", "/engine/banks", missing, say("every cylinder in one of the banks")
            )
    closing = engine.intake_closing_deg_abdc
    if engine.cycle == "two-stroke" and closing is not None:
        expected = say("exhaust_closing_deg_abdc on a two-stroke, which has no intake valve")
        yield problem("cycle", "/engine/intake_closing_deg_abdc", closing, expected)


def dates_exist(document: Document) -> Iterator[CoreError]:
    """Dates that the calendar has."""
    for path, text in (
        ("/inspection/date", document.inspection.date),
        ("/proof/date", document.proof.date),
        ("/proof/follow_up", document.proof.follow_up),
        ("/outcome/date", document.outcome.date),
    ):
        try:
            date.fromisoformat(text or NO_DATE)
        except ValueError:
            yield problem("date", path, text, say("a date as YYYY-MM-DD"))


def refit_is_complete(document: Document) -> Iterator[CoreError]:
    """A refit is closed only with every plug fitted and torqued."""
    missing = still_to_torque(document)
    if document.refit.closed and missing:
        named = ", ".join(map(str, missing))
        expected = say(
            "every plug fitted and torqued before the list is closed; missing: {named}", named=named
        )
        yield problem("refit-open", "/refit/closed", True, expected)


def cylinders_of_items_exist(document: Document) -> Iterator[CoreError]:
    """What names a cylinder beside the lists by cylinder names one that the engine has."""
    count, job, refit = document.engine.cylinders, document.inspection, document.refit
    lists = [
        ("/inspection/order", job.order),
        ("/inspection/scope", job.scope),
        ("/work/first_guess/cylinders", document.work.first_guess.cylinders),
    ]
    lists += [
        (f"/refit/repairs/{index}/cylinders", one.cylinders)
        for index, one in enumerate(refit.repairs)
    ]
    numbers = [
        (f"{path}/{place}", number) for path, listed in lists for place, number in enumerate(listed)
    ]
    by_hand: tuple[tuple[str, tuple[Said | MissingPiece | RefusedPlug, ...]], ...] = (
        ("/inspection/said", job.said),
        ("/work/pieces", document.work.pieces),
        ("/refit/refused", refit.refused),
    )
    for path, items in by_hand:
        numbers += [
            (f"{path}/{index}/cylinder", one.cylinder)
            for index, one in enumerate(items)
            if one.cylinder is not None
        ]
    for path, number in numbers:
        if number > count:
            yield problem("cylinder", path, number, _of_engine(count))


def problems(
    document: dict[str, Any], parts: Sequence[tuple[Any, str, list[Any]]] | None = None
) -> Iterator[CoreError]:
    """All that a schema-valid document still gets wrong.

    With `parts` (a value, its schema's place, its path) only their quantities are looked at.
    """
    if parts is None:
        yield from beyond_instruments(document)
    else:
        for value, place, steps in parts:
            path = "".join(f"/{step}" for step in steps)
            named = next((step for step in reversed(steps) if isinstance(step, str)), "")
            yield from _beyond(_quantities(value, schema_at(place), path, named))
    for spelt in (cylinders_exist, items_named_once, few_enough):
        yield from spelt(document)
    typed = Document.of(document)
    for rule in (
        groups_exist,
        swaps_have_two_ends,
        layout_agrees,
        dates_exist,
        refit_is_complete,
        cylinders_of_items_exist,
    ):
        yield from rule(typed)
