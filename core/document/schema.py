"""The JSON Schema of an inspection document, built from the vocabulary.

`x-key` on a list names the field that identifies its items: the log of observations
addresses them by it, and so does the pointer that a person sees on the screen.
The order of properties here is the order in which a document is written.
"""

from __future__ import annotations

from typing import Any

from core import vocabulary as words
from core.quantities import UNITS, Dimension

FORMAT = "fiacre-inspection"
VERSION = 1
MOST_CYLINDERS = 24
MOST_TEXT = 10_000

Schema = dict[str, Any]


def quantity(*dimensions: Dimension) -> Schema:
    """`{"value": 0.9, "unit": "mm"}` in a unit of one of the dimensions."""
    units = [unit for dimension in dimensions for unit in UNITS[dimension]]
    return {
        "type": "object",
        "properties": {"value": {"type": "number"}, "unit": {"enum": units}},
        "required": ["value", "unit"],
        "additionalProperties": False,
        "x-dimension": [str(dimension) for dimension in dimensions],
    }


def choice(values: tuple[str, ...]) -> Schema:
    return {"enum": list(values)}


def several(values: tuple[str, ...]) -> Schema:
    return {"type": "array", "items": choice(values), "uniqueItems": True}


def record(properties: dict[str, Schema], required: tuple[str, ...] = ()) -> Schema:
    return {
        "type": "object",
        "properties": properties,
        "required": list(required),
        "additionalProperties": False,
    }


def keyed(key: str, properties: dict[str, Schema], required: tuple[str, ...] = ()) -> Schema:
    """A list whose items are told apart by one of their fields."""
    needed = tuple(dict.fromkeys((key, *required))) if key != "id" else required
    return {"type": "array", "items": record(properties, needed), "x-key": key}


TEXT: Schema = {"type": "string", "maxLength": MOST_TEXT}
NAME: Schema = {"type": "string", "minLength": 1, "maxLength": 100}
ITEM_ID: Schema = {"type": "string", "pattern": "^[A-Za-z0-9_-]{1,64}$"}
NUMBER: Schema = {"type": "number"}
FLAG: Schema = {"type": "boolean"}
CYLINDER: Schema = {"type": "integer", "minimum": 1, "maximum": MOST_CYLINDERS}
CYLINDERS: Schema = {"type": "array", "items": CYLINDER, "uniqueItems": True}
PHOTOS: Schema = {
    "type": "array",
    "items": {"type": "string", "pattern": "^sha256:[0-9a-f]{64}$"},
    "uniqueItems": True,
}
COUNT: Schema = {"type": "integer", "minimum": 0}

PRESSURE = quantity(Dimension.PRESSURE)
LENGTH = quantity(Dimension.LENGTH)
TORQUE = quantity(Dimension.TORQUE)
DISTANCE = quantity(Dimension.DISTANCE)
VOLUME = quantity(Dimension.VOLUME)
TEMPERATURE = quantity(Dimension.TEMPERATURE)
PERCENT: Schema = {"type": "number", "minimum": 0, "maximum": 100}

SPECIFICATION = record(
    {
        "compression_min": PRESSURE,
        "compression_max": PRESSURE,
        "compression_max_spread": quantity(Dimension.PRESSURE, Dimension.SHARE),
        "gap_min": LENGTH,
        "gap_max": LENGTH,
        "torque_new": TORQUE,
        "torque_reused": TORQUE,
        "plug_interval": DISTANCE,
        "plug_interval_years": {"type": "number", "exclusiveMinimum": 0, "maximum": 100},
        "plug_part": TEXT,
        "sources": {
            "type": "object",
            "propertyNames": {"pattern": "^[a-z_]{1,40}$"},
            "additionalProperties": choice(words.SOURCES),
        },
        "electrode": choice(words.ELECTRODES),
        "seat": choice(words.SEATS),
        "thread_mm": {"type": "number", "exclusiveMinimum": 0, "maximum": 100},
    }
)

ENGINE = record(
    {
        "title": TEXT,
        "identifier": TEXT,
        "cycle": choice(words.CYCLES),
        "layout": choice(words.LAYOUTS),
        "cylinders": CYLINDER,
        "banks": keyed("name", {"name": NAME, "cylinders": CYLINDERS}, ("cylinders",)),
        "firing_order": CYLINDERS,
        "fuel_system": choice(words.FUEL_SYSTEMS),
        "ignition": choice(words.IGNITIONS),
        "cooling": choice(words.COOLINGS),
        "aspiration": choice(words.ASPIRATIONS),
        "trigger": choice(words.TRIGGERS),
        "feeds": keyed("name", {"name": NAME, "cylinders": CYLINDERS}, ("cylinders",)),
        "bore": LENGTH,
        "stroke": LENGTH,
        "rod": LENGTH,
        "compression_ratio": {"type": "number", "exclusiveMinimum": 1, "maximum": 30},
        "intake_closing_deg_abdc": {"type": "number", "minimum": -60, "maximum": 120},
        "exhaust_closing_deg_abdc": {"type": "number", "minimum": 0, "maximum": 140},
        "specification": SPECIFICATION,
    },
    ("cycle", "layout", "cylinders"),
)

INSPECTION = record(
    {
        "date": {"type": "string", "format": "date", "pattern": r"^\d{4}-\d{2}-\d{2}$"},
        "purpose": choice(words.PURPOSES),
        "odometer": DISTANCE,
        "plug_distance": DISTANCE,
        "altitude_m": {"type": "number", "minimum": -500, "maximum": 9000},
        "ambient": TEMPERATURE,
        "last_run": choice(words.LAST_RUNS),
        "recent_work": several(words.RECENT_WORK),
        "codes_cleared_recently": FLAG,
        "findings": {
            "type": "array",
            "items": record({"place": TEXT, "text": TEXT}),
        },
        "not_inspected": {
            "type": "array",
            "items": record({"item": TEXT, "reason": TEXT}, ("item",)),
        },
        "note": TEXT,
        "photos": PHOTOS,
        "complaints": several(words.COMPLAINTS),
        "trouble_codes": {
            "type": "array",
            "items": {"type": "string", "pattern": "^[PBCU][0-3][0-9A-F]{3}$"},
            "uniqueItems": True,
        },
    }
)

PLUG = record(
    {
        "seating": choice(words.SEATING),
        "distance": DISTANCE,
        "part": TEXT,
        "type_match": choice(words.TYPE_MATCH),
        "outside": several(words.OUTSIDE),
        "smell": choice(words.SMELL),
        "threads": several(words.THREADS),
        "deposit_colour": choice(words.DEPOSIT_COLOUR),
        "deposit_texture": choice(words.DEPOSIT_TEXTURE),
        "deposit_amount": choice(words.DEPOSIT_AMOUNT),
        "wetness": choice(words.WETNESS),
        "wet_with": choice(words.WET_WITH),
        "insulator": choice(words.INSULATOR),
        "centre_electrode": choice(words.CENTRE_ELECTRODE),
        "ground_electrode": choice(words.GROUND_ELECTRODE),
        "gap_bridged": FLAG,
        "gap_closed": FLAG,
        "gap": LENGTH,
        "gap_passes": LENGTH,
        "gap_refuses": LENGTH,
    }
)

CYLINDER_RECORD = keyed(
    "number",
    {
        "number": CYLINDER,
        "well": record(
            {
                "oil": choice(words.STANDING),
                "water": choice(words.STANDING),
                "debris": choice(words.DEBRIS),
                "combustion_leak": choice(words.COMBUSTION_LEAK),
            }
        ),
        "boot": several(words.BOOT),
        "plug": PLUG,
        "coil": several(words.COIL),
        "access": choice(words.ACCESS),
        "borescope": record(
            {
                "bore": choice(words.BORE),
                "crown": choice(words.CROWN),
                "crown_carbon": choice(words.CROWN_CARBON),
                "valves": choice(words.VALVES),
                "coolant_trace": FLAG,
            }
        ),
        "note": TEXT,
        "photos": PHOTOS,
    },
)


def by_cylinder(properties: dict[str, Schema]) -> Schema:
    """A test that says one thing of each cylinder."""
    return keyed("cylinder", {"cylinder": CYLINDER, **properties})


TESTS = record(
    {
        "compression": keyed(
            "id",
            {
                "id": ITEM_ID,
                "kind": choice(words.COMPRESSION_KIND),
                "engine_temperature": choice(words.ENGINE_TEMPERATURE),
                "throttle": choice(words.THROTTLE),
                "plugs_out": choice(words.PLUGS_OUT),
                "cranking_rpm": {"type": "number", "exclusiveMinimum": 0, "maximum": 2000},
                "oil": VOLUME,
                "gauge": TEXT,
                "puffs": {"type": "integer", "minimum": 1, "maximum": 60},
                "readings": by_cylinder(
                    {
                        "pressure": PRESSURE,
                        "strokes": {"type": "array", "items": PRESSURE, "maxItems": 60},
                        "quality": choice(words.READING_QUALITY),
                    }
                ),
            },
            ("kind",),
        ),
        "leakdown": keyed(
            "id",
            {
                "id": ITEM_ID,
                "supply": PRESSURE,
                "restrictor": LENGTH,
                "engine_temperature": choice(words.ENGINE_TEMPERATURE),
                "readings": by_cylinder(
                    {"held": PRESSURE, "percent": PERCENT, "escapes": several(words.ESCAPES)}
                ),
            },
        ),
        "spark": by_cylinder(
            {"result": choice(words.SPARK), "condition": choice(words.SPARK_CONDITION)}
        ),
        "injector": by_cylinder({"pulse": choice(words.PULSE), "flow": choice(words.FLOW)}),
        "balance": by_cylinder({"rpm_drop": NUMBER, "felt": choice(words.FELT)}),
        "misfires": by_cylinder({"count": COUNT}),
        "relative": by_cylinder({"share": PERCENT, "spread": PERCENT, "instrument": TEXT}),
        "swap": keyed(
            "id",
            {
                "id": ITEM_ID,
                "part": choice(words.SWAP_PART),
                "from": CYLINDER,
                "to": CYLINDER,
                "fault_moved": FLAG,
                "result": choice(words.SWAP_RESULT),
            },
            ("part", "from", "to"),
        ),
        "noise": by_cylinder({"kind": choice(words.NOISE), "fades_when_warm": FLAG}),
        "reread": by_cylinder({"result": choice(words.REREAD)}),
        "port_look": by_cylinder({"piston": choice(words.PORT_PISTON)}),
    }
)

DISTRIBUTOR = record(
    {
        "cap": choice(words.CAP),
        "rotor": choice(words.ROTOR),
        "points": choice(words.POINTS),
        "points_gap": LENGTH,
        "dwell_deg": {"type": "number", "minimum": 0, "maximum": 360},
        "advance": choice(words.ADVANCE),
        "vacuum": choice(words.VACUUM),
        "shaft": choice(words.SHAFT),
        "timing_deg_btdc": {"type": "number", "minimum": -90, "maximum": 90},
    }
)

WORK = record(
    {
        "consent": choice(words.CONSENT),
        "consent_by": TEXT,
        "first_guess": record({"cylinders": CYLINDERS, "fault": TEXT, "text": TEXT}),
        "steps": keyed("id", {"id": ITEM_ID, "state": choice(words.STEP_STATE), "reason": TEXT}),
        "removed": keyed("id", {"id": ITEM_ID, "what": TEXT, "back": FLAG}),
        "damage": keyed(
            "id", {"id": ITEM_ID, "what": TEXT, "when": choice(words.DAMAGE), "photos": PHOTOS}
        ),
    }
)

HOURS: Schema = {"type": "number", "minimum": 0, "maximum": 10000}
HOUSE_RULES = record(
    {
        "name": TEXT,
        "compression": choice(
            ("lowest-75", "lowest-70-floor-100", "peers-10", "peers-15", "specification")
        ),
        "order_of_work": choice(words.ORDER_OF_WORK),
        "hourly_rate": {"type": "number", "exclusiveMinimum": 0, "maximum": 100000},
        "currency": TEXT,
        "prices": {
            "type": "object",
            "propertyNames": {"enum": list(words.CONSEQUENCES)},
            "additionalProperties": record({"hours": HOURS, "bad_hours": HOURS}),
        },
        "minutes": {
            "type": "object",
            "propertyNames": {"enum": list(words.NEXT_TESTS)},
            "additionalProperties": {"type": "number", "exclusiveMinimum": 0, "maximum": 1000},
        },
    }
)

SCHEMA: Schema = {
    "$schema": "https://json-schema.org/draft/2020-12/schema",
    "$comment": "Generated from core/document/schema.py; do not edit.",
    "title": "One inspection of one engine",
    **record(
        {
            "format": {"const": FORMAT},
            "version": {"const": VERSION},
            "engine": ENGINE,
            "inspection": INSPECTION,
            "cylinders": CYLINDER_RECORD,
            "tests": TESTS,
            "distributor": DISTRIBUTOR,
            "work": WORK,
            "house_rules": HOUSE_RULES,
        },
        ("format", "version", "engine"),
    ),
}
