"""Records about what speaks together and what apart: expectation and reason first.

Common practice, no other source; written before the rules that answer them, in other words than the
"""

from __future__ import annotations

from typing import Any

from core.tests.documents import compression, quantity
from core.tests.panel import (
    CARBURETTED,
    FUEL_WET,
    INJECTED,
    OIL_WET,
    SMALL_TWO_STROKE,
    SOUND,
    TAN,
    Case,
    engine,
    leakdown,
    read,
)

EVEN = (150, 148, 151, 149)
KM = {"plug_interval": quantity(60_000, "km")}
OIL = ("ring-sealing", "valve-stem-oil")
BIG = {"layout": "flat", "cooling": "air", "bore": quantity(130, "mm"),
       "stroke": quantity(95, "mm"), **CARBURETTED}  # fmt: skip


def aged(km: float) -> dict[str, Any]:
    return engine(
        4, *[TAN] * 4, tests=read(*EVEN), specification=KM,
        job={"plug_distance": quantity(km, "km")}, **INJECTED,
    )  # fmt: skip


def each(fault: str, least: float, most: float) -> dict[tuple[int, str], tuple[float, float]]:
    return {(number, fault): (least, most) for number in (1, 2, 3, 4)}


def held(*psi: float, **described: Any) -> dict[str, Any]:
    readings = [{"cylinder": n, "held": quantity(one, "psi")} for n, one in enumerate(psi, start=1)]
    tester = {"supply": quantity(80, "psi"), "restrictor": quantity(0.060, "in")}
    tests = {"leakdown": [{**tester, "readings": readings}]}
    return engine(len(psi), *[TAN] * len(psi), tests=tests, **described)


WEIGHING = (
    # ------------------------------------------------------------------------ age is a slope
    Case("a quarter of the interval", "young plugs are seldom worn", aged(15_000),
         chances=each("plug-worn", 0, 0.12)),
    Case("just under the interval", "nothing happens in the last mile", aged(59_000),
         chances=each("plug-worn", 0.05, 0.45)),
    Case("just over the interval", "nothing happens in the next mile", aged(60_500),
         chances=each("plug-worn", 0.05, 0.5)),
    Case("twice the interval", "every second set of that age is worn", aged(120_000),
         chances=each("plug-worn", 0.3, 0.85)),
    Case("three times the interval", "most of that age are worn", aged(180_000),
         chances=each("plug-worn", 0.5, 0.97)),
    # ------------------------------------------------------------------- rings that hold and oil
    Case(
        "smoke, one oily plug, level pressures",
        "level compression does not acquit rings of passing oil",
        engine(4, TAN, OIL_WET, TAN, TAN, tests=read(*EVEN), job={"complaints": ["blue-smoke"]},
               **CARBURETTED),
        chances={(2, "ring-sealing"): (0.15, 0.6), (2, "valve-stem-oil"): (0.25, 0.8)},
    ),
    Case(
        "an oily plug that oil lifted by nothing",
        "a wet test that changes nothing leaves the guides in front, the rings behind",
        engine(4, TAN, OIL_WET, TAN, TAN, tests={"compression": [
            compression(list(EVEN)), compression([160, 158, 161, 159], kind="wet")]},
            **CARBURETTED),
        chances={(2, "ring-sealing"): (0.05, 0.5), (2, "valve-stem-oil"): (0.4, 0.95)},
    ),
    Case(
        "oil use and nothing else",
        "oil use is explained once, by whichever cylinder explains it: it names nobody",
        engine(4, *[TAN] * 4, tests=read(*EVEN), job={"complaints": ["oil-use"]}, **CARBURETTED),
        chances={**each("ring-sealing", 0, 0.2), **each("valve-stem-oil", 0, 0.25)},
        grades=dict.fromkeys((1, 2, 3, 4), SOUND),
    ),
    # ----------------------------------------------------------------------- blow-by is normal
    Case(
        "a whisper in every crankcase",
        "air at the filler is normal up to some percent",
        engine(4, *[TAN] * 4, tests=leakdown(*[(6, "crankcase")] * 4,
               restrictor=quantity(0.04, "in")), **CARBURETTED),
        grades=dict.fromkeys((1, 2, 3, 4), SOUND),
    ),
    Case(
        "one blows by, the others whisper",
        "smoke is explained by the one that leaks; three tight ones are sound",
        engine(4, TAN, TAN, OIL_WET, TAN, job={"complaints": ["blue-smoke", "oil-use"]},
               tests=leakdown((6, "crankcase"), (5, "crankcase"), (34, "crankcase"),
                              (6, "crankcase"), restrictor=quantity(0.04, "in")), **CARBURETTED),
        leads={3: ("ring-sealing",)},
        grades={1: "ABC", 2: "ABC", 3: "D", 4: "ABC"},
    ),
    # ------------------------------------------------------------------------ big cylinders
    Case("58 of 80 on a big cylinder", "past the printed limit is watched at every size",
         held(72, 58, 74, 73, **BIG), grades={2: "CD", 1: SOUND}),
    Case("40 of 80 on a big cylinder", "half lost is a repair at every size",
         held(72, 40, 74, 73, **BIG), grades={2: "CD", 1: SOUND}),
    Case("30 of 80 on a big cylinder", "more than half lost is a repair at every size",
         held(72, 30, 74, 73, **BIG), grades={2: "D", 1: SOUND}),
    # ------------------------------------------------------------------------ one high among low
    Case("one high, three low", "one good reading does not clear three bad ones",
         engine(4, *[TAN] * 4, tests=read(180, 100, 95, 98), **CARBURETTED),
         grades={2: "CD", 3: "CD", 4: "CD"}),
    # ------------------------------------------------------------------------- habits, two gauges
    Case(
        "two gauges, each level",
        "two gauges that are each level but a third apart are two gauges",
        engine(4, *[TAN] * 4, tests={"compression": [
            {**compression([150, 148, 151, 149]), "id": "a", "gauge": "old"},
            {**compression([112, 110, 113, 111]), "id": "b", "gauge": "new"}]}, **CARBURETTED),
        grades=dict.fromkeys((1, 2, 3, 4), SOUND),
    ),
    Case(
        "two gauges, and one cylinder low on both",
        "what is low on both gauges is low",
        engine(4, *[TAN] * 4, tests={"compression": [
            {**compression([150, 90, 151, 149]), "id": "a", "gauge": "old"},
            {**compression([112, 66, 113, 111]), "id": "b", "gauge": "new"}]}, **CARBURETTED),
        grades={2: "D", 1: SOUND, 3: SOUND},
    ),
    Case(
        "banks are told, a little soot on a direct-injected vee",
        "an innocent habit is nobody's fault",
        engine(6, *[{**TAN, "deposit_colour": "black", "deposit_texture": "powder",
                     "deposit_amount": "light"}] * 6, layout="vee",
               banks=[{"name": "l", "cylinders": [1, 3, 5]}, {"name": "r", "cylinders": [2, 4, 6]}],
               tests=read(180, 178, 182, 179, 181, 180), fuel_system="direct",
               ignition="coil-on-plug"),
        grades=dict.fromkeys(range(1, 7), SOUND),
    ),
    # ------------------------------------------------------------------------ a sudden stop, gaps
    Case(
        "stopped at once, the plug wet",
        "a sudden stop with a wet plug is looked for across the gap first",
        engine(1, FUEL_WET, job={"complaints": ["stopped-running"]}, tests=read(120),
               **SMALL_TWO_STROKE),
        chances={(1, "plug-gap-bridged"): (0.05, 0.7)},
    ),
    Case(
        "a gap under the maker's least",
        "it is compared with the least that the maker allows, not with the width of the range",
        engine(4, TAN, {**TAN, "gap": quantity(0.62, "mm")}, TAN, TAN, tests=read(*EVEN),
               specification={"gap_min": quantity(0.8, "mm"), "gap_max": quantity(1.1, "mm")},
               **INJECTED),
        chances={(2, "plug-worn"): (0, 0.1)},
        grades={2: "AB"},
    ),
    Case(
        "a hair under the maker's least",
        "0.78 where 0.8 is the least is a blade's tolerance",
        engine(4, TAN, {**TAN, "gap": quantity(0.78, "mm")}, TAN, TAN, tests=read(*EVEN),
               specification={"gap_min": quantity(0.8, "mm"), "gap_max": quantity(1.1, "mm")},
               **INJECTED),
        grades={2: "A"},
    ),
)  # fmt: skip
