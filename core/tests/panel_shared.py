"""Records about witnesses that share something: the eyes, the set, the complaint, the day's gauge.

Common practice, no other source. Expectation and reason were written before the rules that answer
them, and not in the words of any table.
"""

from __future__ import annotations

from typing import Any

from core.tests.documents import compression, quantity
from core.tests.panel import (
    BLISTERED,
    CARBURETTED,
    CHALK,
    FUEL_WET,
    INJECTED,
    OIL_WET,
    SMALL_TWO_STROKE,
    SOOTY,
    SOUND,
    TAN,
    WORN,
    Case,
    engine,
    leakdown,
    read,
)

EVEN = (150, 148, 151, 149)
EIGHT = (150, 148, 151, 149, 152, 147, 150, 149)
VEE_EIGHT = {"layout": "vee", "firing_order": [1, 8, 4, 3, 6, 5, 7, 2], **CARBURETTED}
WET_DAYS = {"complaints": ["misfire"], "complaint_when": ["wet-weather"]}
FINE = {"look": "fine"}
BROWN = {"deposit_colour": "brown", "wetness": "dry"}
BLACK_WET = {**FUEL_WET, "deposit_amount": "moderate", "smell": "fuel"}
PALE = {**CHALK, "deposit_amount": "light"}
GLAZED = {"deposit_colour": "white", "deposit_texture": "glaze", "wetness": "dry"}
SPECKLED = {"deposit_colour": "white", "deposit_texture": "speckled", "wetness": "dry"}
KM = {"plug_interval": quantity(60_000, "km")}


def of_each(numbers: range, fault: str, least: float, most: float) -> dict[Any, Any]:
    return {(number, fault): (least, most) for number in numbers}


def strong(*numbers: int) -> dict[str, Any]:
    return {"spark": [{"cylinder": n, "result": "strong", "condition": "tester"} for n in numbers]}


FOUR, ALL_EIGHT = range(1, 5), range(1, 9)

TOGETHER = (
    # ----------------------------------------------- one set of eyes, one road: a shared ignition
    Case("a tracked cap, misses in the wet, eight handsome plugs",
         "a spark that strays at times leaves the noses as they were; the track was seen",
         engine(8, *[TAN] * 8, tests=read(*EIGHT), points={"cap": "tracked"}, job=WET_DAYS,
                **VEE_EIGHT),
         shared={"ignition-weak": (0.5, 1)}),
    Case("a burnt rotor behind eight handsome plugs", "handsome noses do not clear a burnt rotor",
         engine(8, *[TAN] * 8, tests=read(*EIGHT), points={"rotor": "burnt"},
                job={"complaints": ["misfire-under-load"]}, **VEE_EIGHT),
         shared={"ignition-weak": (0.3, 1)}),
    Case("pitted points at a fifth of a millimetre, six fine glances",
         "a glance at the noses says little of points that have closed up",
         engine(6, *[FINE] * 6, tests=read(*EIGHT[:6]), job={"complaints": ["power-loss"]},
                points={"points": "pitted", "points_gap": quantity(0.2, "mm")}, **CARBURETTED),
         shared={"ignition-weak": (0.5, 1)}),
    Case("everything of the distributor sound, eight handsome plugs, no complaint",
         "a sound distributor is a sound distributor",
         engine(8, *[TAN] * 8, tests=read(*EIGHT),
                points={"cap": "sound", "rotor": "sound", "points": "flat"}, **VEE_EIGHT),
         shared={"ignition-weak": (0, 0.05)}, grades=dict.fromkeys(ALL_EIGHT, SOUND)),
    Case("two white of four", "two pale noses are two plugs; a whole engine lean shows on more",
         engine(4, PALE, TAN, PALE, TAN, tests=read(*EVEN), **CARBURETTED),
         shared={"mixture-lean": (0, 0.5)}),
    Case("four sooty, one carburettor", "all alike and black is what they share",
         engine(4, *[{**SOOTY, "deposit_amount": "moderate"}] * 4, tests=read(*EVEN),
                **CARBURETTED),
         shared={"mixture-rich": (0.6, 1)}),
    Case("six tan under one lamp, brown to the next",
         "one eye's brown all round is that eye", engine(6, *[BROWN] * 6, tests=read(*EIGHT[:6]),
         **CARBURETTED), shared={"mixture-rich": (0, 0.1)},
         grades=dict.fromkeys(range(1, 7), SOUND)),
    # -------------------------------------------------------------- a set of one age wears together
    Case("one rounded edge in a set of squares", "one eye may be wrong; a set wears together",
         engine(4, TAN, {**TAN, "centre_electrode": "rounded", "ground_electrode": "square"},
                *[{**TAN, "centre_electrode": "square", "ground_electrode": "square"}] * 2,
                tests=read(*EVEN), specification=KM,
                job={"plug_distance": quantity(30_000, "km")}, **INJECTED),
         chances={(2, "plug-worn"): (0.05, 0.6), (3, "plug-worn"): (0, 0.15)}),
    Case("three rounded, the fourth not looked at", "the fourth ran the same road",
         engine(4, WORN, WORN, WORN, tests=read(*EVEN), **INJECTED),
         chances={(1, "plug-worn"): (0.85, 1), (4, "plug-worn"): (0.4, 0.97)}),
    Case("three square, the fourth not looked at", "three square edges speak for the fourth",
         engine(4, *[{**TAN, "centre_electrode": "square", "ground_electrode": "square"}] * 3,
                tests=read(*EVEN), specification=KM,
                job={"plug_distance": quantity(90_000, "km")}, **INJECTED),
         chances={(4, "plug-worn"): (0, 0.25)}),
    Case("no age, no look at an electrode", "plugs of which nothing is known are seldom claimed",
         engine(4, *[TAN] * 4, tests=read(*EVEN), **INJECTED),
         chances=of_each(FOUR, "plug-worn", 0.02, 0.3), grades=dict.fromkeys(FOUR, SOUND)),
    Case("one new plug among old ones", "a plug that was just put in has not run the others' road",
         engine(4, {**TAN, "distance": quantity(500, "km")}, *[TAN] * 3, tests=read(*EVEN),
                specification=KM, job={"plug_distance": quantity(150_000, "km")}, **INJECTED),
         chances={(1, "plug-worn"): (0, 0.1), (2, "plug-worn"): (0.35, 0.95)}),
    # ------------------------------------------------------- a complaint of the engine, said once
    Case("a misfire, nothing found", "somebody misses; which, nothing here says",
         engine(8, *[TAN] * 8, tests=read(*EIGHT), job={"complaints": ["misfire"]}, **INJECTED),
         chances=of_each(ALL_EIGHT, "ignition-weak", 0, 0.2)
         | of_each(ALL_EIGHT, "plug-insulator-cracked", 0, 0.08)),
    Case("blue smoke, one plug wet with oil, eight cylinders", "the wet one explains the smoke",
         engine(8, TAN, TAN, OIL_WET, *[TAN] * 5, tests=read(*EIGHT),
                job={"complaints": ["blue-smoke"]}, **INJECTED),
         chances=of_each(range(4, 9), "valve-stem-oil", 0, 0.08)
         | of_each(range(4, 9), "ring-sealing", 0, 0.08)),
    Case("smoke without a cause", "somewhere oil is burnt; no one of four is convicted for it",
         engine(4, tests=read(*EVEN), job={"complaints": ["blue-smoke"]}, **CARBURETTED),
         chances=of_each(FOUR, "valve-stem-oil", 0.03, 0.45)
         | of_each(FOUR, "ring-sealing", 0.03, 0.4)),
    Case("a misfire that a broken coil explains", "what one explains is not the others' burden",
         engine(4, TAN, BLACK_WET, TAN, TAN, job={"complaints": ["misfire"]},
                tests={**read(*EVEN), "spark": [
                    {"cylinder": 2, "result": "none", "condition": "tester"}]}, **INJECTED),
         chances={(2, "ignition-weak"): (0.6, 1), (1, "ignition-weak"): (0, 0.07),
                  (3, "fuel-lean"): (0, 0.07)}),
    Case("coolant goes, one washed nose", "the washed one takes it; the others are let be",
         engine(4, TAN, {"deposit_colour": "white", "deposit_texture": "clean", "wetness": "damp",
                         "wet_with": "coolant"}, TAN, TAN, tests=read(*EVEN),
                job={"complaints": ["coolant-loss", "white-smoke"]}, **CARBURETTED),
         chances={(2, "head-gasket-coolant"): (0.7, 1), (4, "head-gasket-coolant"): (0, 0.06)}),
    Case("coolant goes, nothing seen", "it goes somewhere: perhaps here, nobody in particular",
         engine(4, *[TAN] * 4, tests=read(*EVEN), job={"complaints": ["coolant-loss"]},
                **CARBURETTED),
         chances=of_each(FOUR, "head-gasket-coolant", 0, 0.12)),
    # ----------------------------------------------- the tests of one day share gauge, hose, hands
    Case("the leak-down typed three times", "three lines of one tester's test are one test",
         engine(4, *[TAN] * 4, tests={"leakdown": [
             {"id": name, "restrictor": quantity(0.04, "in"),
              "readings": [{"cylinder": n, "percent": p}
                           for n, p in zip(FOUR, (8, 17, 9, 8), strict=True)]}
             for name in ("a", "b", "c")]}, **CARBURETTED),
         chances={(2, "ring-sealing"): (0, 0.6)}),
    Case("a swap noted twice", "the same swap on two lines moved once",
         engine(4, *[TAN] * 4, job={"trouble_codes": ["P0302"]}, tests={"swap": [
             {"id": name, "part": "coil", "from": 2, "to": 3, "result": "moved"}
             for name in ("a", "b")]}, **INJECTED),
         chances={(2, "ignition-weak"): (0.5, 0.995)}),
    # --------------------------------------------------------------------- fuel is a peer of spark
    Case("one black and wet among brown, strong spark",
         "spark is there, fuel is too much: this one is rich",
         engine(4, BROWN, BLACK_WET, BROWN, BROWN, tests={**read(*EVEN), **strong(1, 2, 3, 4)},
                **CARBURETTED),
         leads={2: ("fuel-rich",)}, chances={(2, "fuel-rich"): (0.35, 1)}),
    Case("one black and wet, strong spark, injected", "a leaking injector wets one plug",
         engine(4, TAN, BLACK_WET, TAN, TAN, tests={**read(*EVEN), **strong(1, 2, 3, 4)},
                **INJECTED),
         leads={2: ("fuel-rich",)}),
    Case("one white and dry, strong spark, no pulse", "an injector that nobody pulses starves it",
         engine(4, TAN, PALE, TAN, TAN, tests={**read(*EVEN), **strong(1, 2, 3, 4),
                "injector": [{"cylinder": 2, "pulse": "absent"}]}, **INJECTED),
         leads={2: ("fuel-lean",)}, chances={(2, "fuel-lean"): (0.8, 1)}),
    Case("a coil proven dead, its injector cut", "what is cut is no lean cylinder",
         engine(4, TAN, TAN, TAN, TAN, job={"trouble_codes": ["P0302"], "complaints": ["misfire"]},
                tests={**read(*EVEN), "spark": [
                    {"cylinder": 2, "result": "none", "condition": "tester"}],
                    "injector": [{"cylinder": 2, "pulse": "absent"}]}, **INJECTED),
         leads={2: ("ignition-weak",)}),
    Case("one sooty, misses under load, strong spark", "too much fuel misses under load as well",
         engine(4, TAN, {**SOOTY, "deposit_amount": "heavy"}, TAN, TAN,
                job={"complaints": ["misfire-under-load"]},
                tests={**read(*EVEN), **strong(1, 2, 3, 4)}, **CARBURETTED),
         leads={2: ("fuel-rich", "plug-fouled")}, chances={(2, "fuel-rich"): (0.2, 1)}),
    # ------------------------------------------------------------------------ white is a scale
    Case("pale powder on four, injected", "pale and powdery is normal there",
         engine(4, *[PALE] * 4, tests=read(*EVEN), **INJECTED),
         grades=dict.fromkeys(FOUR, "AB")),
    Case("pale powder on four, carburettor", "leaner than it should be: looked into, not condemned",
         engine(4, *[PALE] * 4, tests=read(*EVEN), **CARBURETTED),
         grades=dict.fromkeys(FOUR, "BCD")),
    Case("bone white and glazed on four, injected", "a glaze is heat on any engine",
         engine(4, *[GLAZED] * 4, tests=read(*EVEN), **INJECTED),
         grades=dict.fromkeys(FOUR, "CDE")),
    Case("blistered on four, injected", "blisters are heat that stops the job",
         engine(4, *[BLISTERED] * 4, tests=read(*EVEN), **INJECTED),
         grades=dict.fromkeys(FOUR, "DE")),
    Case("speckled nose on one", "specks are metal: the crown is looked at first",
         engine(4, TAN, SPECKLED, TAN, TAN, tests=read(*EVEN), **CARBURETTED),
         grades={2: "DE", 1: SOUND}),
    Case("one pale nose of four, injected", "one a shade pale is scatter there",
         engine(4, TAN, PALE, TAN, TAN, tests=read(*EVEN), **INJECTED),
         chances={(2, "fuel-lean"): (0, 0.5)}),
    # ------------------------------------------------------ absent is never normal, in lists too
    Case("a boot marked stained", "who wrote of a stain did not feel how hard it is",
         engine(4, *[TAN] * 4, tests=read(*EVEN),
                records=[{"number": 2, "boot": ["exhaust-stained"]}], **INJECTED),
         chances={(2, "plug-loose"): (0.2, 1)}),
    Case("corroded threads, oil stands in the well", "rust on a thread says nothing of its oil",
         engine(4, TAN, {**TAN, "threads": ["corroded"]}, TAN, TAN, tests=read(*EVEN),
                records=[{"number": 2, "well": {"oil": "trace"}}], **INJECTED),
         chances={(2, "well-seal"): (0.15, 0.6)}),
    # ---------------------------------------------------------------- low together, one high
    Case("one high among low, without a figure of the maker",
         "the one good cylinder is likelier than one bad reading",
         engine(4, *[TAN] * 4, tests=read(180, 100, 95, 98), **CARBURETTED),
         chances={(2, "ring-sealing"): (0.12, 0.9), (3, "ring-sealing"): (0.12, 0.9)}),
    Case("one high among low, with the maker's figure", "three are far under what the maker asks",
         engine(4, *[TAN] * 4, tests=read(180, 100, 95, 98),
                specification={"compression_min": quantity(140, "psi")}, **CARBURETTED),
         grades={2: "CD", 3: "CD", 4: "CD"}),
    Case("all low alike, ratio known", "low and even is the test or all of them: nobody alone",
         engine(4, *[TAN] * 4, tests=read(96, 95, 97, 94), compression_ratio=9.0, **CARBURETTED),
         chances=of_each(FOUR, "ring-sealing", 0, 0.35)),
    # ------------------------------------------------------------------------------ sudden stop
    Case("stopped at once, nothing across the gap", "what was looked for and not found is out",
         engine(1, {**FUEL_WET, "gap_bridged": False, "gap_closed": False}, tests=read(120),
                job={"complaints": ["stopped-running"]}, **SMALL_TWO_STROKE),
         chances={(1, "plug-gap-bridged"): (0, 0.05)}),
    # ------------------------------------------------------- points, timing, condenser, no book
    Case("points at a tenth, no figure of the maker",
         "no breaker in the trade is set at a tenth of a millimetre",
         engine(4, *[TAN] * 4, job={"complaints": ["misfire"]},
                points={"points_gap": quantity(0.1, "mm")}, **CARBURETTED),
         shared={"ignition-weak": (0.25, 1)}),
    Case("points at four tenths, no figure of the maker", "that is where most are set",
         engine(4, *[TAN] * 4, points={"points_gap": quantity(0.4, "mm")}, **CARBURETTED),
         shared={"ignition-weak": (0, 0.06)}),
    Case("timing at fifty before the centre at idle, no book", "no engine idles there",
         engine(4, *[TAN] * 4, points={"timing_deg_btdc": 50}, **CARBURETTED),
         shared={"ignition-timing": (0.3, 1)}),
    # --------------------------------------------------- readings that were not made
    Case("low, and its seal hissed", "a reading that hissed was not made",
         engine(4, *[TAN] * 4, tests={"compression": [{"kind": "dry", "readings": [
             {"cylinder": 1, "pressure": quantity(150, "psi")},
             {"cylinder": 2, "pressure": quantity(90, "psi"), "quality": "seal-leak"},
             {"cylinder": 3, "pressure": quantity(151, "psi")},
             {"cylinder": 4, "pressure": quantity(149, "psi")}]}]}, **CARBURETTED),
         chances={(2, "ring-sealing"): (0, 0.2)}),
    Case("two blow by a little, one a lot, all big", "several times its peers is a fault",
         engine(4, *[TAN] * 4, tests=leakdown((9, "crankcase"), (48, "crankcase"),
                (8, "crankcase"), (10, "crankcase")), bore=quantity(130, "mm"),
                stroke=quantity(95, "mm"), layout="flat", cooling="air", **CARBURETTED),
         leads={2: ("ring-sealing", "piston-damage")}, grades={2: "CD", 1: SOUND, 3: SOUND}),
    Case("a wet test typed for a dry one", "wet under dry is looked at again and convicts no one",
         engine(4, *[TAN] * 4, tests={"compression": [
             compression(list(EVEN)), compression([150, 96, 152, 150], kind="wet")]},
             **CARBURETTED),
         chances={(2, "ring-sealing"): (0, 0.3)}),
)  # fmt: skip
