"""Short ways to write documents in tests."""

from __future__ import annotations

from typing import Any

from core.document import check_document
from core.document.records import Document, Engine

SOUND_PLUG = {
    "deposit_colour": "tan",
    "deposit_texture": "powder",
    "deposit_amount": "light",
    "wetness": "dry",
}
SOOTY_PLUG = {**SOUND_PLUG, "deposit_colour": "black", "deposit_amount": "moderate"}


def quantity(value: float, unit: str) -> dict[str, Any]:
    return {"value": value, "unit": unit}


def document(cylinders: int = 4, layout: str = "inline", **engine: Any) -> dict[str, Any]:
    return {
        "format": "fiacre-inspection",
        "version": 1,
        "engine": {
            "cycle": "four-stroke",
            "layout": layout,
            "cylinders": cylinders,
            **engine,
        },
    }


def typed(made: dict[str, Any]) -> Document:
    """A document as the core sees it behind its reading."""
    return Document.of(check_document(made))


def engine(cylinders: int = 4, layout: str = "inline", **more: Any) -> Engine:
    return Engine.of(document(cylinders, layout, **more)["engine"])


def compression(values: list[float], kind: str = "dry", unit: str = "psi", **test: Any) -> Any:
    readings = [
        {"cylinder": number, "pressure": quantity(value, unit)}
        for number, value in enumerate(values, start=1)
    ]
    return {"kind": kind, "readings": readings, **test}


def plugs(*each: dict[str, Any]) -> list[dict[str, Any]]:
    return [{"number": number, "plug": plug} for number, plug in enumerate(each, start=1)]


def probability(assessment: dict[str, Any], fault: str, cylinder: int | None = None) -> float:
    """Of a fault of a cylinder, or of the engine."""
    place = (
        assessment["engine"]
        if cylinder is None
        else next(one for one in assessment["cylinders"] if one["number"] == cylinder)
    )
    return next(one["probability"] for one in place["faults"] if one["fault"] == fault)


def grade_of(assessment: dict[str, Any], cylinder: int) -> str:
    return next(one["grade"] for one in assessment["cylinders"] if one["number"] == cylinder)
