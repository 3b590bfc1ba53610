"""The JSON Schema of an inspection document, built from the vocabulary.

The order of properties here is the order in which a document is written.
"""

from __future__ import annotations

from core import vocabulary as words
from core.document.refit_schema import (
    CUT_PERCENT,
    DATE,
    DWELL,
    LOBES,
    PLUG_SHAPE,
    PROOF,
    RATIO,
    REFIT,
    TIMING,
)
from core.document.shapes import (
    COUNT,
    CYLINDER,
    CYLINDER_COUNT,
    CYLINDERS,
    DISTANCE,
    FLAG,
    ITEM_ID,
    LENGTH,
    MOST_ITEMS,
    NAME,
    NUMBER,
    PERCENT,
    PHOTOS,
    PRESSURE,
    TEMPERATURE,
    TEXT,
    TORQUE,
    VOLUME,
    Schema,
    by_cylinder,
    choice,
    keyed,
    quantity,
    record,
    several,
)
from core.quantities import Dimension

FORMAT = "fiacre-inspection"
VERSION = 1

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
        **PLUG_SHAPE,
        "head": choice(words.HEADS),
        "points_gap_min": LENGTH,
        "points_gap_max": LENGTH,
        "dwell_min_deg": DWELL,
        "dwell_max_deg": DWELL,
        "timing_deg_btdc": TIMING,
        "cam_lobes": LOBES,
        "pulley_diameter": LENGTH,
        "premix_ratio": RATIO,
    }
)

# Nobody is in a bank alone for a moment: a list of them is said whole.
SHARING: Schema = {
    **keyed("name", {"name": NAME, "cylinders": CYLINDERS}, ("cylinders",)),
    "x-whole": True,
}

ENGINE = record(
    {
        "title": TEXT,
        "identifier": TEXT,
        "cycle": choice(words.CYCLES),
        "layout": choice(words.LAYOUTS),
        "cylinders": CYLINDER_COUNT,
        "banks": SHARING,
        "firing_order": {**CYLINDERS, "x-printed": True},
        "fuel_system": choice(words.FUEL_SYSTEMS),
        "ignition": choice(words.IGNITIONS),
        "cooling": choice(words.COOLINGS),
        "aspiration": choice(words.ASPIRATIONS),
        "trigger": choice(words.TRIGGERS),
        "feeds": SHARING,
        "bore": LENGTH,
        "stroke": LENGTH,
        "rod": LENGTH,
        "compression_ratio": {"type": "number", "exclusiveMinimum": 1, "maximum": 30},
        "intake_closing_deg_abdc": {"type": "number", "minimum": -60, "maximum": 120},
        "exhaust_closing_deg_abdc": {"type": "number", "minimum": 0, "maximum": 140},
        "decompressor": FLAG,
        "socket_mm": {"type": "number", "exclusiveMinimum": 0, "maximum": 100},
        "specification": SPECIFICATION,
        "tools": record({"socket": TEXT, "extension": TEXT, "adapter": TEXT}),
    },
    ("cycle", "layout", "cylinders"),
)

INSPECTION = record(
    {
        "date": DATE,
        "purpose": choice(words.PURPOSES),
        "odometer": DISTANCE,
        "plug_distance": DISTANCE,
        "altitude_m": {"type": "number", "minimum": -500, "maximum": 9000},
        "ambient": TEMPERATURE,
        "last_run": choice(words.LAST_RUNS),
        "recent_work": several(words.RECENT_WORK),
        "history": choice(words.HISTORIES),
        "order": CYLINDERS,
        "scope": {**CYLINDERS, "x-set": True},
        "engine_place": choice(words.ENGINE_PLACES),
        "can_run": FLAG,
        "fine_today": FLAG,
        "instruments": several(words.INSTRUMENTS),
        "said": keyed("id", {"id": ITEM_ID, "text": TEXT, "cylinder": CYLINDER}),
        "codes_cleared_recently": FLAG,
        "findings": {
            "type": "array",
            "maxItems": MOST_ITEMS,
            "items": record({"place": TEXT, "text": TEXT}),
        },
        "not_inspected": {
            "type": "array",
            "maxItems": MOST_ITEMS,
            "items": record({"item": TEXT, "reason": TEXT}, ("item",)),
        },
        "note": TEXT,
        "photos": PHOTOS,
        "complaints": several(words.COMPLAINTS),
        "complaint_when": several(words.COMPLAINT_WHEN),
        "complaint_how_often": choice(words.COMPLAINT_HOW_OFTEN),
        "complaint_since": TEXT,
        "trouble_codes": {
            "type": "array",
            "maxItems": MOST_ITEMS,
            "items": {"type": "string", "pattern": "^[PBCU][0-3][0-9A-F]{3}$"},
            "uniqueItems": True,
        },
    }
)

PLUG = record(
    {
        "look": choice(words.LOOK),
        "cleaned": choice(words.CLEANED),
        "seating": choice(words.SEATING),
        "distance": DISTANCE,
        "part": TEXT,
        "type_match": choice(words.TYPE_MATCH),
        **PLUG_SHAPE,
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
                        "instrument": TEXT,
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
        "misfires": by_cylinder({"count": COUNT, "instrument": TEXT}),
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
        "points_distance": DISTANCE,
        "rubbing_block": choice(words.RUBBING_BLOCK),
        "dwell_deg": DWELL,
        "condenser": choice(words.CONDENSER),
        "moisture": FLAG,
        "advance": choice(words.ADVANCE),
        "vacuum": choice(words.VACUUM),
        "shaft": choice(words.SHAFT),
        "timing_deg_btdc": TIMING,
    }
)

WORK = record(
    {
        "consent": choice(words.CONSENT),
        "consent_by": TEXT,
        "first_guess": record(
            {"cylinders": {**CYLINDERS, "x-set": True}, "fault": TEXT, "text": TEXT}
        ),
        "steps": keyed("id", {"id": ITEM_ID, "state": choice(words.STEP_STATE), "reason": TEXT}),
        "removed": keyed("id", {"id": ITEM_ID, "what": TEXT, "back": FLAG}),
        "pieces": keyed(
            "id",
            {
                "id": ITEM_ID,
                "cylinder": CYLINDER,
                "what": choice(words.PIECES),
                "state": choice(words.PIECE_STATE),
            },
        ),
        "damage": keyed(
            "id", {"id": ITEM_ID, "what": TEXT, "when": choice(words.DAMAGE), "photos": PHOTOS}
        ),
    }
)

FAULTS = several(words.CYLINDER_FAULTS)
JUDGEMENT = record(
    {
        "grade": choice(words.GRADES),
        "reason": TEXT,
        "cylinders": by_cylinder(
            {
                "grade": choice(words.GRADES),
                "fault": choice(words.CYLINDER_FAULTS),
                "reason": TEXT,
            }
        ),
    }
)
OUTCOME = record(
    {
        "date": DATE,
        "engine_faults": several(words.ENGINE_FAULTS),
        "cylinders": by_cylinder({"found": FAULTS, "nothing": FLAG, "one_of": FLAG, "note": TEXT}),
        "note": TEXT,
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
        "leakdown": choice(("loss-25", "loss-20", "loss-10", "spread-10")),
        "mixture": choice(words.MIXTURES),
        "plugs": choice(words.PLUG_POLICIES),
        "gap_aim": choice(words.GAP_AIMS),
        "threads": choice(words.THREAD_SCHOOLS),
        "lubricated_cut": CUT_PERCENT,
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
            "judgement": JUDGEMENT,
            "refit": REFIT,
            "proof": PROOF,
            "outcome": OUTCOME,
            "house_rules": HOUSE_RULES,
        },
        ("format", "version", "engine"),
    ),
}
