"""The way back, as the contract spells it: new plugs in, ignition set, the fix proved."""

from __future__ import annotations

from core import vocabulary as words
from core.document.shapes import (
    COUNT,
    CYLINDER,
    CYLINDERS,
    FLAG,
    ITEM_ID,
    LENGTH,
    MOST_CYLINDERS,
    NUMBER,
    PERCENT,
    PRESSURE,
    TEXT,
    TORQUE,
    VOLUME,
    Schema,
    by_cylinder,
    choice,
    keyed,
    record,
)
from core.plugs.blades import MOST_BLADES
from core.quantities import UNITS, Dimension

MOST_STACKED = 3
DATE: Schema = {"type": "string", "format": "date", "pattern": r"^\d{4}-\d{2}-\d{2}$"}
SCALE: Schema = {"type": "number", "exclusiveMinimum": 0, "maximum": 100_000}
SIGNED_LENGTH: Schema = {**LENGTH, "x-signed": True}  # Along a handle, nearer to the hand below 0.
BLADES: Schema = {"type": "array", "items": LENGTH, "maxItems": MOST_BLADES}
CUT_PERCENT: Schema = {"type": "number", "minimum": 0, "maximum": 60}
LOBES: Schema = {"type": "integer", "minimum": 1, "maximum": MOST_CYLINDERS}
DWELL: Schema = {"type": "number", "minimum": 0, "maximum": 360}
TIMING: Schema = {"type": "number", "minimum": -90, "maximum": 90}
RATIO: Schema = {"type": "number", "minimum": 5, "maximum": 500}

# What tells one make of plug from another, on the old one and on the new one alike.
PLUG_SHAPE: dict[str, Schema] = {
    "seat": choice(words.SEATS),
    "thread_mm": {"type": "number", "exclusiveMinimum": 0, "maximum": 100},
    "thread_length": LENGTH,
    "reach": LENGTH,
}
NEW_PLUG = record(
    {
        "part": TEXT,
        **PLUG_SHAPE,
        "electrode": choice(words.ELECTRODES),
        "ground_electrode": choice(words.NEW_GROUND_ELECTRODE),
        "ceramic": choice(words.NEW_CERAMIC),
        "markings": choice(words.MARKINGS),
        "arrived_gap": LENGTH,
        "gap": LENGTH,
        "gap_passes": LENGTH,
        "gap_refuses": LENGTH,
        "gap_blades": {"type": "array", "items": LENGTH, "maxItems": MOST_STACKED},
    }
)
WRENCH = record(
    {
        "unit": choice(UNITS[Dimension.TORQUE]),
        "step": SCALE,
        "minimum": SCALE,
        "maximum": SCALE,
        "offset": SIGNED_LENGTH,
        "length": LENGTH,
        "joint": FLAG,
    }
)
OWN_TOOLS = record({"blades": BLADES, "wrench": WRENCH})
REFIT = record(
    {
        "cylinders": by_cylinder(
            {
                "plug": NEW_PLUG,
                "reused": FLAG,
                "threads": choice(words.THREAD_STATE),
                "turns_by_hand": COUNT,
                "through_hose": FLAG,
                "fitted": FLAG,
                "torque": TORQUE,
                "turn_deg": {"type": "number", "exclusiveMinimum": 0, "maximum": 720},
                "torqued": FLAG,
                "coil_back": FLAG,
                "boot_greased": FLAG,
            }
        ),
        "refused": keyed(
            "id",
            {"id": ITEM_ID, "cylinder": CYLINDER, "reason": TEXT, "plug": NEW_PLUG},
        ),
        "repairs": keyed(
            "id",
            {
                "id": ITEM_ID,
                "cylinders": {**CYLINDERS, "x-set": True},
                "part": choice(words.REPAIRED),
                "action": choice(words.REPAIR),
                "part_number": TEXT,
                "note": TEXT,
            },
        ),
        "wrench": WRENCH,
        "engine_temperature": choice(words.ENGINE_TEMPERATURE),
        "steps": keyed("id", {"id": ITEM_ID, "state": choice(words.STEP_STATE), "reason": TEXT}),
        "tools_out": COUNT,
        "tools_back": COUNT,
        "points": record(
            {
                "renewed": FLAG,
                "gap": LENGTH,
                "dwell_deg": DWELL,
                "cam_greased": FLAG,
                "timing_deg_btdc": TIMING,
                "timing_gap": LENGTH,
                "timing_dwell_deg": DWELL,
                "backlash_out": FLAG,
            }
        ),
        "premix": record({"ratio": RATIO, "fuel": VOLUME, "oil": VOLUME}),
        "closed": FLAG,
        "kept": record({"label": TEXT, "where": TEXT}),
    }
)
PROOF = record(
    {
        "date": DATE,
        "start": choice(words.STARTED),
        "beat": choice(words.BEAT),
        "codes": choice(words.CODES_AFTER),
        "drive": FLAG,
        "drive_conditions": TEXT,
        "complaint": choice(words.COMPLAINT_AFTER),
        "cylinders": by_cylinder(
            {
                "pressure": PRESSURE,
                "wet_pressure": PRESSURE,
                "percent": PERCENT,
                "combustion_leak": choice(words.COMBUSTION_LEAK),
                "noise": choice(words.NOISE_AFTER),
                "look": choice(words.LOOK),
                "deposit_colour": choice(words.DEPOSIT_COLOUR),
                "wetness": choice(words.WETNESS),
                "rpm_drop": NUMBER,
                "felt": choice(words.FELT),
                "misfires": COUNT,
            }
        ),
        "follow_up": DATE,
        "followed_up": FLAG,
        "note": TEXT,
    }
)
