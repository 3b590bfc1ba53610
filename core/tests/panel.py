"""A panel of records and what a rebuilder would say of each: common practice, no other source.

Each says who should be suspected of what, who should not, and how far a grade may go. A record is
written as short as it would be on paper; `why` is the rebuilder's reason.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from core.tests.documents import compression, document, quantity

TAN = {"deposit_colour": "tan", "wetness": "dry"}
SOOTY = {"deposit_colour": "black", "deposit_texture": "powder", "wetness": "dry"}
FUEL_WET = {"deposit_colour": "black", "wetness": "wet", "wet_with": "fuel"}
OIL_WET = {"deposit_colour": "black", "wetness": "wet", "wet_with": "oil"}
CHALK = {"deposit_colour": "white", "deposit_texture": "powder", "wetness": "dry"}
BLISTERED = {"deposit_colour": "white", "deposit_texture": "blistered", "wetness": "dry"}
ASH = {"deposit_colour": "tan", "deposit_texture": "crust", "deposit_amount": "heavy"}
WASHED = {
    "deposit_colour": "white",
    "deposit_texture": "clean",
    "wetness": "damp",
    "wet_with": "coolant",
}
WORN = {**TAN, "centre_electrode": "rounded", "ground_electrode": "rounded"}

INJECTED = {"fuel_system": "port", "ignition": "coil-on-plug"}
CARBURETTED = {"fuel_system": "carburettor", "ignition": "distributor"}
SMALL_TWO_STROKE = {
    "cycle": "two-stroke",
    "cooling": "air",
    "fuel_system": "carburettor",
    "ignition": "magneto",
}
PROPER = {"engine_temperature": "hot", "throttle": "open", "cranking_rpm": 220, "plugs_out": "all"}
VEE_SIX = [{"name": "left", "cylinders": [1, 3, 5]}, {"name": "right", "cylinders": [2, 4, 6]}]


@dataclass(frozen=True)
class Case:
    """One record and the verdict on it.

    Attributes
    ----------
    leads : mapping of cylinder to faults
        Any of which should be the likeliest of that cylinder, its gaskets and shared parts counted.
    shared : mapping of fault to (least, most)
        Chance of a fault that all share, or those of one part.
    between : mapping of fault to {cylinder: (least, most)}
    grades : mapping of cylinder to the letters that are fit
    """

    name: str
    why: str
    made: dict[str, Any]
    leads: dict[int, tuple[str, ...]] = field(default_factory=dict)
    shared: dict[str, tuple[float, float]] = field(default_factory=dict)
    chances: dict[tuple[int, str], tuple[float, float]] = field(default_factory=dict)
    grades: dict[int, str] = field(default_factory=dict)
    warns: tuple[str, ...] = ()


def engine(
    cylinders: int,
    *each: dict[str, Any],
    job: dict[str, Any] | None = None,
    tests: dict[str, Any] | None = None,
    records: list[dict[str, Any]] | None = None,
    points: dict[str, Any] | None = None,
    **described: Any,
) -> dict[str, Any]:
    """A record: plugs by cylinder, what was asked, what was tested."""
    layout = described.pop("layout", "single" if cylinders == 1 else "inline")
    made = document(cylinders, layout, **described)
    if each:
        made["cylinders"] = [
            {"number": n, "plug": plug} for n, plug in enumerate(each, start=1) if plug
        ]
    for one in records or []:
        known = next(
            (r for r in made.setdefault("cylinders", []) if r["number"] == one["number"]), None
        )
        if known:
            known.update(one)
        else:
            made["cylinders"].append(one)
    for name, part in (("inspection", job), ("tests", tests), ("distributor", points)):
        if part:
            made[name] = part
    return made


def read(*values: float, **test: Any) -> dict[str, Any]:
    return {"compression": [compression(list(values), **test)]}


def both(dry: list[float], wet: list[float], **test: Any) -> dict[str, Any]:
    return {"compression": [compression(dry, **test), compression(wet, kind="wet", **test)]}


def leakdown(*each: Any, **tester: Any) -> dict[str, Any]:
    readings = [
        {"cylinder": n, "percent": lost}
        if not isinstance(lost, tuple)
        else {"cylinder": n, "percent": lost[0], "escapes": [lost[1]]}
        for n, lost in enumerate(each, start=1)
        if lost is not None
    ]
    return {"leakdown": [{"readings": readings, **tester}]}


LEAK = ("ring-sealing", "intake-valve-sealing", "exhaust-valve-sealing", "piston-damage")
VALVE = ("intake-valve-sealing", "exhaust-valve-sealing")
SPARK = ("ignition-weak", "plug-gap-bridged", "plug-insulator-cracked", "plug-fouled")
HOT = ("combustion-overheat", "fuel-lean", "mixture-lean")
SOUND = "AB"

PANEL = (
    # ------------------------------------------------------------------------ sound engines
    Case(
        "four alike and even",
        "even and tan is healthy, whatever the absolute value",
        engine(4, TAN, TAN, TAN, TAN, tests=read(150, 148, 151, 149), **INJECTED),
        grades={1: "A", 2: "A", 3: "A", 4: "A"},
    ),
    Case(
        "looks fine, and even",
        "a glance at each and even pressures",
        engine(4, *[{"look": "fine"}] * 4, tests=read(150, 148, 151, 149), **INJECTED),
        grades={1: SOUND, 3: SOUND},
    ),
    Case(
        "near white on injection",
        "a thin, dry, near-white nose is normal on unleaded injection",
        engine(
            4,
            *[
                {
                    "deposit_colour": "white",
                    "deposit_texture": "clean",
                    "deposit_amount": "light",
                    "wetness": "dry",
                }
            ]
            * 4,
            tests=read(180, 178, 182, 179),
            **INJECTED,
        ),
        grades={1: SOUND, 2: SOUND, 3: SOUND, 4: SOUND},
        shared={"mixture-lean": (0, 0.3)},
    ),
    Case(
        "light soot on direct injection",
        "a little dry soot is normal there",
        engine(
            4,
            *[{**SOOTY, "deposit_amount": "light"}] * 4,
            tests=read(180, 178, 182, 179),
            fuel_system="direct",
            ignition="coil-on-plug",
        ),
        shared={"mixture-rich": (0, 0.4)},
        grades={1: "ABC"},
    ),
    Case(
        "a shade apart",
        "a shade darker or lighter than its neighbours is normal scatter",
        engine(
            4,
            TAN,
            {"deposit_colour": "brown", "wetness": "dry"},
            TAN,
            {"deposit_colour": "brown", "wetness": "dry"},
            tests=read(150, 148, 151, 149),
            **CARBURETTED,
        ),
        grades={1: SOUND, 2: SOUND, 3: SOUND, 4: SOUND},
    ),
    Case(
        "cold and low, and even",
        "low absolute figures belong to the cold, slow test",
        engine(
            6,
            tests=read(96, 95, 97, 94, 96, 95, engine_temperature="cold", cranking_rpm=140),
            compression_ratio=8.5,
            **CARBURETTED,
        ),
        chances={(1, "ring-sealing"): (0, 0.2), (4, "ring-sealing"): (0, 0.2)},
        warns=("cold-test", "slow-cranking"),
    ),
    Case(
        "seventy-five of eighty through the big orifice",
        "75 of 80 passes there as everywhere",
        engine(
            4,
            tests={
                "leakdown": [
                    {
                        "supply": quantity(80, "psi"),
                        "restrictor": quantity(0.060, "in"),
                        "readings": [
                            {"cylinder": n, "held": quantity(75, "psi")} for n in (1, 2, 3, 4)
                        ],
                    }
                ]
            },
            layout="flat",
            cooling="air",
            bore=quantity(5.1, "in"),
            stroke=quantity(4, "in"),
            **CARBURETTED,
        ),
        grades={1: SOUND, 2: SOUND, 3: SOUND, 4: SOUND},
    ),
    Case(
        "a gap inside the maker's range",
        "0.7 in 0.7 to 0.9 is not narrow",
        engine(
            4,
            *[{**TAN, "gap": quantity(0.7, "mm")}] * 4,
            tests=read(150, 148, 151, 149),
            specification={"gap_min": quantity(0.7, "mm"), "gap_max": quantity(0.9, "mm")},
            **CARBURETTED,
        ),
        chances={(1, "plug-gap-bridged"): (0, 0.05), (1, "plug-worn"): (0, 0.1)},
        grades={1: "A"},
    ),
    Case(
        "one figure has a blade's tolerance",
        "0.62 where 0.6 is printed is on the figure",
        engine(
            4,
            *[{**TAN, "gap": quantity(0.62, "mm")}] * 4,
            tests=read(150, 148, 151, 149),
            specification={"gap_max": quantity(0.6, "mm")},
            **CARBURETTED,
        ),
        chances={(1, "plug-worn"): (0, 0.15)},
        grades={1: SOUND},
    ),
    Case(
        "well washed in the rain",
        "a trace of water and all else fine",
        engine(
            4,
            TAN,
            TAN,
            TAN,
            TAN,
            records=[{"number": 2, "well": {"water": "trace"}}],
            tests=read(150, 148, 151, 149),
            **INJECTED,
        ),
        grades={2: SOUND},
    ),
    # ------------------------------------------------------------------------ leaks
    Case(
        "one at half",
        "one cylinder at half of its peers leaks; where is open",
        engine(4, TAN, TAN, TAN, TAN, tests=read(150, 75, 151, 149), **INJECTED),
        leads={2: LEAK},
        grades={2: "D", 1: SOUND, 3: SOUND, 4: SOUND},
    ),
    Case(
        "half, and oil brings it back",
        "a rise with oil says rings",
        engine(4, tests=both([150, 90, 151, 149], [160, 140, 161, 158]), **CARBURETTED),
        leads={2: ("ring-sealing",)},
        grades={2: "D"},
    ),
    Case(
        "half, and oil changes nothing",
        "no rise says valves",
        engine(4, tests=both([150, 90, 151, 149], [160, 95, 161, 158]), **CARBURETTED),
        leads={2: VALVE},
        grades={2: "D"},
    ),
    Case(
        "heard at the exhaust",
        "where it is heard is where it goes",
        engine(
            4,
            tests={
                **read(150, 90, 151, 149),
                **leakdown(5, (45, "exhaust"), 6, 5, restrictor=quantity(0.04, "in")),
            },
            **CARBURETTED,
        ),
        leads={2: ("exhaust-valve-sealing",)},
        grades={2: "D"},
    ),
    Case(
        "heard at the intake",
        "where it is heard is where it goes",
        engine(
            4,
            tests=leakdown(5, (40, "intake"), 6, 5, restrictor=quantity(0.04, "in")),
            **CARBURETTED,
        ),
        leads={2: ("intake-valve-sealing",)},
    ),
    Case(
        "heard at the filler",
        "rings",
        engine(
            4,
            tests=leakdown(6, (45, "crankcase"), 6, 5, restrictor=quantity(0.04, "in")),
            **CARBURETTED,
        ),
        leads={2: ("ring-sealing", "piston-damage")},
    ),
    Case(
        "bubbles",
        "gasket or crack into the jacket",
        engine(
            4,
            tests=leakdown(6, 5, (30, "coolant"), 5, restrictor=quantity(0.04, "in")),
            **CARBURETTED,
        ),
        leads={3: ("head-gasket-coolant",)},
        grades={3: "DE"},
    ),
    Case(
        "neighbours low together",
        "gasket between",
        engine(4, tests=read(150, 80, 78, 149), **CARBURETTED),
        leads={2: ("head-gasket-between",), 3: ("head-gasket-between",)},
    ),
    Case(
        "neighbours low, with misfire, rough idle and codes",
        "a leaking gasket explains all of it as well as a valve does",
        engine(
            4,
            job={"complaints": ["misfire", "rough-idle"], "trouble_codes": ["P0302", "P0303"]},
            tests=read(150, 80, 78, 149),
            **INJECTED,
        ),
        leads={2: ("head-gasket-between",), 3: ("head-gasket-between",)},
    ),
    Case(
        "47 against 5 on an unknown restrictor",
        "at eight times its peers' loss it is condemned in every school",
        engine(4, tests=leakdown(5, 47, 5, 6), **CARBURETTED),
        leads={2: LEAK},
        grades={2: "D"},
    ),
    Case(
        "all worn alike, oil use",
        "even and low on a proper test with oil use: rings throughout or the timing, never sound",
        engine(
            4,
            job={"complaints": ["oil-use", "blue-smoke"]},
            tests=both([105, 103, 106, 104], [150, 147, 152, 149], **PROPER),
            compression_ratio=9.5,
            **CARBURETTED,
        ),
        leads={1: ("ring-sealing",), 4: ("ring-sealing",)},
    ),
    Case(
        "all low, oil no help, no power",
        "a properly run test, all equally low, no gain, no power: timing",
        engine(
            4,
            job={"complaints": ["power-loss"]},
            tests=both([100, 99, 101, 100], [108, 107, 109, 108], **PROPER),
            compression_ratio=9.5,
            **CARBURETTED,
        ),
        shared={"valve-timing": (0.5, 1)},
    ),
    Case(
        "small two-stroke at 45 psi",
        "no peer is no acquittal",
        engine(
            1,
            TAN,
            job={"complaints": ["power-loss", "overheating"]},
            tests=read(45),
            **SMALL_TWO_STROKE,
        ),
        grades={1: "CDE"},
    ),
    Case(
        "small two-stroke at 130 psi",
        "a sound reading needs no peer either",
        engine(1, TAN, tests=read(130), **SMALL_TWO_STROKE),
        grades={1: SOUND},
    ),
    Case(
        "a single with a decompressor",
        "a decompressor explains a low one",
        engine(1, TAN, tests=read(70), decompressor=True, cooling="air", **CARBURETTED),
        grades={1: "ABCU"},
    ),
    Case(
        "two of six low, apart",
        "two that share nothing leak each for itself",
        engine(6, tests=read(150, 95, 149, 151, 90, 150), **CARBURETTED),
        leads={2: LEAK, 5: LEAK},
        grades={2: "D", 5: "D", 1: SOUND},
    ),
    Case(
        "a scored bore that was seen",
        "what is seen is nearly certain",
        engine(
            4,
            records=[{"number": 3, "borescope": {"bore": "scored"}}],
            tests=read(150, 148, 130, 149),
            **CARBURETTED,
        ),
        leads={3: ("ring-sealing", "piston-damage")},
        grades={3: "D"},
    ),
    Case(
        "the doubtful reading",
        "a reading marked doubtful weighs next to nothing",
        engine(
            4,
            TAN,
            TAN,
            TAN,
            TAN,
            tests={
                "compression": [
                    {
                        "kind": "dry",
                        "readings": [
                            {"cylinder": 1, "pressure": quantity(150, "psi")},
                            {"cylinder": 2, "pressure": quantity(70, "psi"), "quality": "doubtful"},
                            {"cylinder": 3, "pressure": quantity(151, "psi")},
                            {"cylinder": 4, "pressure": quantity(149, "psi")},
                        ],
                    }
                ]
            },
            **CARBURETTED,
        ),
        grades={2: "ABC"},
    ),
    Case(
        "oil-wet, level pressures",
        "level compression does not acquit rings of passing oil",
        engine(
            4,
            TAN,
            OIL_WET,
            TAN,
            TAN,
            job={"complaints": ["blue-smoke"]},
            tests=read(150, 147, 151, 149),
            **CARBURETTED,
        ),
        chances={(2, "valve-stem-oil"): (0.3, 0.95), (2, "ring-sealing"): (0.05, 0.6)},
        leads={2: ("valve-stem-oil",)},
    ),
    Case(
        "oil in the well",
        "oil standing in the well comes from outside the chamber",
        engine(
            4,
            TAN,
            TAN,
            TAN,
            TAN,
            records=[{"number": 3, "well": {"oil": "pooled"}}],
            tests=read(150, 148, 151, 149),
            **INJECTED,
        ),
        leads={3: ("well-seal",)},
        chances={(3, "ring-sealing"): (0, 0.05)},
        grades={3: "B"},
    ),
    Case(
        "washed clean among tan",
        "coolant",
        engine(
            4,
            TAN,
            TAN,
            WASHED,
            TAN,
            job={"complaints": ["coolant-loss", "white-smoke"]},
            tests=read(150, 148, 140, 149),
            **INJECTED,
        ),
        leads={3: ("head-gasket-coolant",)},
        grades={3: "DE"},
    ),
    Case(
        "no compression, holed",
        "nothing on the gauge and metal on the nose",
        engine(
            2,
            TAN,
            {"deposit_colour": "grey", "deposit_texture": "speckled", "wetness": "dry"},
            job={"complaints": ["stopped-running"]},
            tests=read(140, 5),
            **SMALL_TWO_STROKE,
        ),
        leads={2: ("piston-damage",)},
        grades={2: "DE"},
    ),
    Case(
        "overheated, then a broken land",
        "damage leads where it is seen or the leak says so",
        engine(
            4,
            TAN,
            TAN,
            {**BLISTERED, "deposit_texture": "speckled"},
            TAN,
            job={"complaints": ["knock", "power-loss"]},
            tests={
                **read(150, 148, 60, 149),
                **leakdown(6, 5, (60, "crankcase"), 6, restrictor=quantity(0.04, "in")),
            },
            **CARBURETTED,
        ),
        leads={3: ("piston-damage",)},
        grades={3: "DE"},
    ),
    # ------------------------------------------------------------------------ heat and lean
    Case(
        "four chalk noses on a carburettor",
        "white, hesitation and spitting back: lean, all of them",
        engine(
            4,
            CHALK,
            CHALK,
            CHALK,
            CHALK,
            job={"complaints": ["hesitation", "backfire"]},
            tests=read(150, 148, 151, 149),
            **CARBURETTED,
        ),
        shared={"mixture-lean": (0.5, 1)},
        grades={1: "CD"},
    ),
    Case(
        "one white among tan",
        "one different: that cylinder",
        engine(4, TAN, CHALK, TAN, TAN, tests=read(150, 148, 151, 149), **INJECTED),
        leads={2: ("fuel-lean", "combustion-overheat")},
        chances={(2, "fuel-lean"): (0.15, 1)},
        shared={"mixture-lean": (0, 0.2)},
    ),
    Case(
        "melted centre electrode",
        "what is seen is nearly certain: nothing else melts it",
        engine(
            4,
            TAN,
            {**TAN, "centre_electrode": "melted"},
            TAN,
            TAN,
            tests=read(150, 148, 151, 149),
            **INJECTED,
        ),
        chances={(2, "combustion-overheat"): (0.8, 1)},
        grades={2: "CDE"},
    ),
    Case(
        "four blistered",
        "hot throughout",
        engine(
            4,
            *[BLISTERED] * 4,
            job={"complaints": ["knock"]},
            tests=read(150, 148, 151, 149),
            **CARBURETTED,
        ),
        grades={1: "CDE", 4: "CDE"},
    ),
    Case(
        "two-stroke short of oil",
        "hot and dry, and little oil in the fuel",
        engine(
            1,
            BLISTERED,
            job={"complaints": ["power-loss", "stopped-running"]},
            tests=read(120),
            records=[{"number": 1, "plug": BLISTERED}],
            **SMALL_TWO_STROKE,
        ),
        grades={1: "CDE"},
    ),
    # ------------------------------------------------------------------------ rich
    Case(
        "all sooty",
        "all sooty: the mixture",
        engine(
            4,
            *[{**SOOTY, "deposit_amount": "heavy"}] * 4,
            job={"complaints": ["black-smoke", "high-fuel-use"]},
            tests=read(150, 148, 151, 149),
            **CARBURETTED,
        ),
        shared={"mixture-rich": (0.7, 1)},
    ),
    Case(
        "one sooty",
        "one different: that cylinder",
        engine(
            4,
            TAN,
            TAN,
            {**SOOTY, "deposit_amount": "heavy"},
            TAN,
            tests={
                **read(150, 148, 151, 149),
                "spark": [{"cylinder": 3, "result": "strong", "condition": "tester"}],
            },
            **INJECTED,
        ),
        leads={3: ("fuel-rich", "plug-fouled")},
        shared={"mixture-rich": (0, 0.15)},
    ),
    Case(
        "a sooty single on a carburettor",
        "soot on a carburetted single is that mixture",
        engine(
            1,
            {**SOOTY, "deposit_amount": "heavy"},
            job={"complaints": ["black-smoke"]},
            tests=read(120),
            cooling="air",
            **CARBURETTED,
        ),
        shared={"mixture-rich": (0.5, 1)},
    ),
    Case(
        "the cylinders of one carburettor sooty",
        "those that share it, and no others: that carburettor",
        engine(
            4,
            {**SOOTY, "deposit_amount": "moderate"},
            {**SOOTY, "deposit_amount": "moderate"},
            TAN,
            TAN,
            tests=read(150, 148, 151, 149),
            feeds=[{"name": "front", "cylinders": [1, 2]}, {"name": "rear", "cylinders": [3, 4]}],
            **CARBURETTED,
        ),
        shared={"mixture-rich": (0.6, 1)},
    ),
    Case(
        "one bank sooty",
        "the whole bank: what it shares",
        engine(
            6,
            *[{**SOOTY, "deposit_amount": "moderate"}, TAN] * 3,
            layout="vee",
            banks=VEE_SIX,
            tests=read(150, 148, 151, 149, 150, 148),
            **INJECTED,
        ),
        shared={"mixture-rich": (0.6, 1)},
    ),
    Case(
        "touch rich on purpose",
        "house rules may shift what right is",
        {
            **engine(
                4,
                *[{**SOOTY, "deposit_amount": "light"}] * 4,
                tests=read(150, 148, 151, 149),
                **CARBURETTED,
            ),
            "house_rules": {"mixture": "touch-rich"},
        },
        shared={"mixture-rich": (0, 0.75)},
    ),
    # ------------------------------------------------------------------------ misfire
    Case(
        "coded and wet, the rest tan",
        "fuel that was not lit: spark before mechanics",
        engine(
            4,
            TAN,
            TAN,
            FUEL_WET,
            TAN,
            job={"complaints": ["misfire"], "trouble_codes": ["P0303"]},
            tests=read(150, 148, 151, 149),
            **INJECTED,
        ),
        leads={3: SPARK},
        grades={3: "CD"},
    ),
    Case(
        "coded, wet, and the fault moved with the coil",
        "what follows the part is the part",
        engine(
            4,
            TAN,
            TAN,
            FUEL_WET,
            TAN,
            job={"complaints": ["misfire"], "trouble_codes": ["P0303"]},
            tests={"swap": [{"part": "coil", "from": 3, "to": 1, "result": "moved"}]},
            **INJECTED,
        ),
        leads={3: ("ignition-weak",)},
        chances={(3, "ignition-weak"): (0.85, 1)},
        grades={3: "D"},
    ),
    Case(
        "coded, dry, spark strong, no pulse",
        "no pulse, no fuel",
        engine(
            4,
            TAN,
            TAN,
            TAN,
            TAN,
            job={"complaints": ["misfire"], "trouble_codes": ["P0303"]},
            tests={
                "spark": [{"cylinder": 3, "result": "strong", "condition": "tester"}],
                "injector": [{"cylinder": 3, "pulse": "absent"}],
            },
            **INJECTED,
        ),
        leads={3: ("fuel-lean",)},
    ),
    Case(
        "coded, dry, spark strong, pulse there",
        "dry, spark proven, pulse present: the injector leads",
        engine(
            4,
            TAN,
            TAN,
            TAN,
            TAN,
            job={"complaints": ["misfire"], "trouble_codes": ["P0303"]},
            tests={
                **read(150, 148, 151, 149),
                "spark": [{"cylinder": 3, "result": "strong", "condition": "tester"}],
                "injector": [{"cylinder": 3, "pulse": "present"}],
            },
            **INJECTED,
        ),
        leads={3: ("fuel-lean", "plug-worn")},
        chances={(3, "fuel-lean"): (0.15, 1), (3, "ignition-weak"): (0, 0.15)},
    ),
    Case(
        "crack in the nose",
        "a hairline shorts to ground",
        engine(
            4,
            TAN,
            {**TAN, "insulator": "cracked-nose"},
            TAN,
            TAN,
            job={"complaints": ["misfire"], "trouble_codes": ["P0302"]},
            tests=read(150, 148, 151, 149),
            **INJECTED,
        ),
        leads={2: ("plug-insulator-cracked",)},
        grades={2: "BCD"},
    ),
    Case(
        "bridged gap on a single that stopped",
        "no spark there: a small fault that looks like a dead engine",
        engine(
            1,
            {**FUEL_WET, "gap_bridged": True},
            job={"complaints": ["stopped-running"]},
            tests=read(120),
            **SMALL_TWO_STROKE,
        ),
        leads={1: ("plug-gap-bridged",)},
        chances={(1, "plug-gap-bridged"): (0.95, 1)},
    ),
    Case(
        "overdue, worn and missing under load",
        "worn plugs explain a misfire under load before anything else",
        engine(
            4,
            *[{**WORN, "gap": quantity(1.5, "mm")}] * 4,
            job={"complaints": ["misfire-under-load"], "plug_distance": quantity(160000, "km")},
            tests=read(150, 148, 151, 149),
            specification={"gap_max": quantity(1.1, "mm"), "plug_interval": quantity(60000, "km")},
            **INJECTED,
        ),
        leads={1: ("plug-worn",), 3: ("plug-worn",)},
        warns=("overdue",),
        chances={(1, "ignition-weak"): (0, 0.3)},
    ),
    Case(
        "two coded that share only age",
        "their plugs, before the mixture",
        engine(
            6,
            *[WORN] * 6,
            job={
                "complaints": ["misfire-under-load"],
                "trouble_codes": ["P0302", "P0305"],
                "plug_distance": quantity(150000, "km"),
            },
            specification={"plug_interval": quantity(60000, "km")},
            **INJECTED,
        ),
        leads={2: ("plug-worn",), 5: ("plug-worn",)},
        shared={"mixture-rich": (0, 0.2)},
    ),
    Case(
        "fault stayed when the coil was swapped",
        "it speaks of the cylinder, not of the mixture",
        engine(
            4,
            TAN,
            FUEL_WET,
            TAN,
            TAN,
            job={"complaints": ["misfire"], "trouble_codes": ["P0302"]},
            tests={"swap": [{"part": "coil", "from": 2, "to": 3, "result": "stayed"}]},
            **INJECTED,
        ),
        shared={"mixture-rich": (0, 0.15)},
        chances={(2, "ignition-weak"): (0, 0.4)},
    ),
    Case(
        "both of one coil dead",
        "a shared coil takes both its cylinders",
        engine(
            4,
            FUEL_WET,
            TAN,
            TAN,
            FUEL_WET,
            job={"complaints": ["misfire"], "trouble_codes": ["P0301", "P0304"]},
            tests=read(150, 148, 151, 149),
            fuel_system="port",
            ignition="wasted-spark",
            firing_order=[1, 3, 4, 2],
        ),
        leads={1: ("ignition-weak",), 4: ("ignition-weak",)},
    ),
    Case(
        "coded, and fine today",
        "it did misfire; it did not today: never sound",
        engine(
            4,
            TAN,
            TAN,
            TAN,
            TAN,
            job={"trouble_codes": ["P0302"], "fine_today": True},
            tests=read(150, 148, 151, 149),
            **INJECTED,
        ),
        grades={2: "BCD"},
        warns=("intermittent",),
    ),
    Case(
        "weak on all, cupped points",
        "what all share",
        engine(
            4,
            *[FUEL_WET] * 4,
            job={"complaints": ["hard-start", "misfire"]},
            points={"points": "cupped", "condenser": "weak"},
            tests=read(150, 148, 151, 149),
            trigger="points",
            **CARBURETTED,
        ),
        shared={"ignition-weak": (0.4, 1)},
    ),
    Case(
        "P0313 names nobody",
        "P0313 and above are no cylinders",
        engine(16, layout="vee", job={"trouble_codes": ["P0313"]}, **INJECTED),
        grades={13: "U"},
    ),
    Case(
        "lean codes",
        "a lean code is evidence of the mixture",
        engine(
            4,
            job={"trouble_codes": ["P0171"], "complaints": ["hesitation"]},
            tests=read(150, 148, 151, 149),
            **INJECTED,
        ),
        shared={"mixture-lean": (0.3, 1)},
    ),
    Case(
        "coded, and every test of it is good",
        "a test at idle says little of a fault under load: it comes and goes, and is never sound",
        engine(
            4,
            TAN,
            TAN,
            TAN,
            TAN,
            job={"trouble_codes": ["P0302"]},
            tests={
                **read(150, 148, 151, 149),
                "balance": [{"cylinder": n, "felt": "clear"} for n in (1, 2, 3, 4)],
                "spark": [{"cylinder": 2, "result": "strong", "condition": "tester"}],
                "injector": [{"cylinder": 2, "pulse": "present", "flow": "good"}],
            },
            **INJECTED,
        ),
        grades={2: "BC", 1: "A"},
    ),
    # ------------------------------------------------------------------------ plugs
    Case(
        "loose, with a puff",
        "a plug that comes with no effort did not seal",
        engine(
            4,
            TAN,
            {**TAN, "seating": "loose"},
            TAN,
            TAN,
            records=[{"number": 2, "boot": ["exhaust-stained"]}],
            tests={**read(150, 148, 151, 149), "noise": [{"cylinder": 2, "kind": "puff"}]},
            **INJECTED,
        ),
        leads={2: ("plug-loose",)},
    ),
    Case(
        "strap missing",
        "where is the piece?",
        engine(
            4,
            TAN,
            {**TAN, "ground_electrode": "missing"},
            TAN,
            TAN,
            tests=read(150, 148, 151, 149),
            **INJECTED,
        ),
        grades={2: "E"},
    ),
    Case(
        "only a part number",
        "that is not an examination",
        engine(4, *[{"part": "X1"}] * 4, **INJECTED),
        grades={1: "U"},
    ),
    Case(
        "only wells",
        "a look into the wells leaves a cylinder ungraded",
        engine(
            4, records=[{"number": n, "well": {"oil": "none"}} for n in (1, 2, 3, 4)], **INJECTED
        ),
        grades={1: "U"},
    ),
    # ------------------------------------------------------------------------ contradictions
    Case(
        "full compression, huge leak-down",
        "two records that cannot both be right: read again",
        engine(
            4,
            TAN,
            TAN,
            TAN,
            TAN,
            tests={
                **read(150, 149, 151, 150),
                **leakdown(5, 70, 5, 6, restrictor=quantity(0.04, "in")),
            },
            **CARBURETTED,
        ),
        warns=("contradiction",),
    ),
    Case(
        "moved and stayed",
        "a swap cannot do both",
        engine(
            4,
            TAN,
            TAN,
            TAN,
            TAN,
            tests={
                "swap": [
                    {"part": "coil", "from": 2, "to": 3, "result": "moved"},
                    {"part": "coil", "from": 2, "to": 4, "result": "stayed"},
                ]
            },
            **INJECTED,
        ),
        warns=("contradiction",),
    ),
    Case(
        "no spark, and it pulls",
        "a cylinder without spark cannot pull",
        engine(
            4,
            tests={
                "spark": [{"cylinder": 2, "result": "none", "condition": "tester"}],
                "balance": [{"cylinder": n, "felt": "clear"} for n in (1, 2, 3, 4)],
            },
            **INJECTED,
        ),
        warns=("contradiction",),
    ),
    Case(
        "go and no-go the wrong way round",
        "one of the blades is mistaken",
        engine(
            4,
            {**TAN, "gap_passes": quantity(0.9, "mm"), "gap_refuses": quantity(0.8, "mm")},
            TAN,
            TAN,
            TAN,
            **INJECTED,
        ),
        warns=("contradiction",),
    ),
    Case(
        "read twice, far apart",
        "the same cylinder the same day",
        engine(
            4,
            tests={
                "compression": [
                    compression([150, 150, 151, 149], id="a"),
                    compression([150, 95, 151, 149], id="b"),
                ]
            },
            **CARBURETTED,
        ),
        warns=("contradiction",),
    ),
)
