"""Open formats: tables of one inspection, and the file that was signed."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator, Mapping
from typing import Any

from core.quantities import Dimension, Quantity

CYLINDER_HEAD = [
    "cylinder", "grade", "plug_action", "suspected", "probability", "repair_probability",
    "deposit_colour", "deposit_texture", "wetness", "wet_with", "gap", "gap_unit", "well_oil",
]  # fmt: skip
READING_HEAD = ["test", "kind", "cylinder", "figure", "value", "unit", "si_value", "si_unit"]
SI_UNIT = {Dimension.PRESSURE: "Pa", Dimension.LENGTH: "m", Dimension.TORQUE: "N.m"}

Row = list[Any]
Table = Callable[[Mapping[str, Any], Mapping[str, Any]], Iterator[Row]]


def cylinder_rows(document: Mapping[str, Any], assessment: Mapping[str, Any]) -> Iterator[Row]:
    """One row a cylinder, after the heading."""
    yield CYLINDER_HEAD
    records = {one["number"]: one for one in document.get("cylinders", [])}
    for one in assessment["cylinders"]:
        record = records.get(one["number"], {})
        plug, first = record.get("plug", {}), one["faults"][0]
        gap = plug.get("gap", {})
        yield [
            one["number"], one["grade"], one["plug_action"], first["fault"], first["probability"],
            one["consequences"]["repair"], *(plug.get(name, "") for name in CYLINDER_HEAD[6:10]),
            gap.get("value", ""), gap.get("unit", ""), record.get("well", {}).get("oil", ""),
        ]  # fmt: skip


def reading_rows(document: Mapping[str, Any], _: Mapping[str, Any]) -> Iterator[Row]:
    """One row a reading as it was read, with its value in SI beside it."""
    yield READING_HEAD
    for record in document.get("cylinders", []):
        for name in ("gap", "gap_passes", "gap_refuses"):
            raw = record.get("plug", {}).get(name)
            if raw:
                yield ["plug", "", record["number"], name, *_both(raw, Dimension.LENGTH)]
    tests = document.get("tests", {})
    for test in tests.get("compression", []):
        for item in test.get("readings", []):
            start = [test.get("id", ""), test["kind"], item["cylinder"]]
            for at, raw in enumerate(item.get("strokes", []), start=1):
                yield [*start, f"stroke {at}", *_both(raw, Dimension.PRESSURE)]
            if "pressure" in item:
                yield [*start, "final", *_both(item["pressure"], Dimension.PRESSURE)]
    for test in tests.get("leakdown", []):
        for item in test.get("readings", []):
            start = [test.get("id", ""), "leakdown", item["cylinder"]]
            if "held" in item:
                yield [*start, "held", *_both(item["held"], Dimension.PRESSURE)]
            if "percent" in item:
                yield [*start, "lost", item["percent"], "%", "", ""]
    for name, figure in (("misfires", "count"), ("relative", "share"), ("balance", "rpm_drop")):
        for item in tests.get(name, []):
            if figure in item:
                yield [name, "", item["cylinder"], figure, item[figure], "", "", ""]
    yield from _refit_rows(document)


def _refit_rows(document: Mapping[str, Any]) -> Iterator[Row]:
    """What was measured of new plugs and read again after the repair."""
    for one in document.get("refit", {}).get("cylinders", []):
        for name in ("arrived_gap", "gap", "gap_passes", "gap_refuses"):
            if raw := one.get("plug", {}).get(name):
                yield ["new-plug", "", one["cylinder"], name, *_both(raw, Dimension.LENGTH)]
        if "torque" in one:
            start = ["fitting", "", one["cylinder"], "torque"]
            yield [*start, *_both(one["torque"], Dimension.TORQUE)]
    for one in document.get("proof", {}).get("cylinders", []):
        start = ["proof", "", one["cylinder"]]
        if "pressure" in one:
            yield [*start, "final", *_both(one["pressure"], Dimension.PRESSURE)]
        for name in ("misfires", "rpm_drop"):
            if name in one:
                yield [*start, name, one[name], "", "", ""]


def _both(raw: dict[str, Any], dimension: Dimension) -> Row:
    si = Quantity(raw["value"], raw["unit"], dimension).si
    return [raw["value"], raw["unit"], f"{si:.6g}", SI_UNIT[dimension]]


def signed_file(content: Mapping[str, Any]) -> bytes:
    """What was signed, as a file with which anybody can check its digest."""
    return json.dumps(content, ensure_ascii=False, indent=2).encode()
