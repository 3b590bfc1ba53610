"""Random documents straight from the contract's schema: anything that it allows may turn up."""

from __future__ import annotations

import random
from typing import Any

from core.document.schema import SCHEMA

CYLINDERS = (1, 2, 3, 4, 5, 6, 8, 12, 16, 24)
USUAL = {
    "pressure": (0, 250, "psi"),
    "length": (0.2, 2, "mm"),
    "torque": (5, 40, "N.m"),
    "distance": (0, 200_000, "km"),
    "volume": (1, 20, "mL"),
    "temperature": (-10, 90, "degC"),
}


def random_document(source: random.Random, most: int = CYLINDERS[-1]) -> dict[str, Any]:
    """A document that the schema allows; what its parts must agree on is seen to.

    Of the larger engines there are few where `most` of their cylinders are usual.
    """
    made = _Maker(source).made(SCHEMA, "")
    usual = [one for one in CYLINDERS if one <= most] * 3
    engine, count = made["engine"], source.choice([*usual, *CYLINDERS])
    layouts = ["single"] if count == 1 else ["inline", "vee", "flat", "radial", "other"]
    engine["cylinders"], engine["layout"] = count, source.choice(layouts)
    for name in ("banks", "feeds", "firing_order"):
        engine.pop(name, None)
    other = "exhaust" if engine["cycle"] == "four-stroke" else "intake"
    engine.pop(f"{other}_closing_deg_abdc", None)
    numbers = list(range(1, count + 1))
    if count > 1 and source.random() < 0.7:
        cut = source.randint(1, count - 1)
        shuffled = source.sample(numbers, count)
        engine["banks"] = [
            {"name": "left", "cylinders": shuffled[:cut]},
            {"name": "right", "cylinders": shuffled[cut:]},
        ]
    if source.random() < 0.6:
        engine["firing_order"] = source.sample(numbers, count)
    _fit(made, count, source)
    return made


def _fit(made: dict[str, Any], count: int, source: random.Random) -> None:
    """Keep to the cylinders that the engine has."""
    made["cylinders"] = [one for one in made.get("cylinders", []) if one["number"] <= count]
    for name, items in made.get("tests", {}).items():
        if name == "swap":
            for item in items if count > 1 else ():
                item["from"], item["to"] = source.sample(range(1, count + 1), 2)
        elif name not in ("compression", "leakdown"):
            made["tests"][name] = [item for item in items if item["cylinder"] <= count]
        else:
            for item in items:
                readings = item.get("readings", [])
                item["readings"] = [one for one in readings if one["cylinder"] <= count]
    for field in ("judgement", "outcome", "refit", "proof"):
        told = made.get(field, {})
        told["cylinders"] = [one for one in told.get("cylinders", []) if one["cylinder"] <= count]
    refit = made.get("refit", {})
    refit.pop("closed", None)
    refit["refused"] = [one for one in refit.get("refused", []) if one.get("cylinder", 1) <= count]
    if count == 1:
        made.get("tests", {}).pop("swap", None)
    for repair in refit.get("repairs", []):
        repair["cylinders"] = source.sample(range(1, count + 1), source.randint(0, min(2, count)))
    work = made.get("work", {})
    work.pop("first_guess", None)
    work["pieces"] = [one for one in work.get("pieces", []) if one.get("cylinder", 1) <= count]


class _Maker:
    """Makes something that a schema allows; how full it is changes from document to document."""

    def __init__(self, source: random.Random) -> None:
        self.source = source
        self.full = source.choice((0.15, 0.35, 0.6))

    def made(self, schema: dict[str, Any], name: str) -> Any:
        source = self.source
        if "const" in schema:
            return schema["const"]
        if "enum" in schema:
            return source.choice(schema["enum"])
        if "x-dimension" in schema:
            low, high, unit = USUAL[schema["x-dimension"][0]]
            return {"value": round(source.uniform(low, high), 3), "unit": unit}
        match schema.get("type"):
            case "object":
                needed = schema.get("required", ())
                return {
                    field: self.made(inner, field)
                    for field, inner in schema.get("properties", {}).items()
                    if field in needed or source.random() < self.full
                }
            case "array":
                return self.items(schema, name)
            case "boolean":
                return source.random() < 0.5
            case "integer":
                return source.randint(1, 12)
            case "number":
                low = schema.get("minimum", schema.get("exclusiveMinimum", 0))
                high = min(schema.get("maximum", 100), low + 100)
                return round(source.uniform(low + 0.01, high), 3)
        return self.text(schema.get("pattern", ""))

    def items(self, schema: dict[str, Any], name: str) -> list[Any]:
        inner, source = schema["items"], self.source
        if "x-key" not in schema:
            if "enum" in inner:
                return source.sample(inner["enum"], source.randint(0, min(3, len(inner["enum"]))))
            return [self.made(inner, name)] if inner.get("type") != "integer" else []
        key = schema["x-key"]
        whole = inner["properties"][key].get("type") == "integer"
        ids = range(1, 25) if whole else [f"{name}-{at}" for at in range(source.randint(0, 2))]
        chosen = [one for one in ids if not whole or source.random() < 0.7]
        return [{**self.made(inner, name), key: one} for one in chosen]

    def text(self, pattern: str) -> str:
        if "PBCU" in pattern:
            return self.source.choice(["P0300", "P0171", "P0301", "P0304"])
        if r"\d{4}" in pattern:
            return "2026-05-04"
        return "sha256:" + "a" * 64 if "sha256" in pattern else "text"
