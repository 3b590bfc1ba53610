"""What a rebuilder would do about records of the panel: key, plug, next act, money.

Common practice, no other source. `run` is the answer and a word of its reason, `plugs` what becomes
of which, `act` any of which may come first ("" where nothing more is worth the while), `on` the
cylinders of the first act, `money` the least and the most to expect in EUR at the table's rate.
"""

from __future__ import annotations

from dataclasses import dataclass, field

EVERY = 0  # Every cylinder of the record.


@dataclass(frozen=True)
class Judged:
    run: tuple[str, str] | None = None
    plugs: dict[int, str] = field(default_factory=dict)
    act: tuple[str, ...] = ()
    on: tuple[int, ...] = ()
    says: str = ""
    money: tuple[float, float] | None = None


SOUND = Judged(("yes", "speaks against"), {EVERY: "keep"}, ("",), money=(0, 0))
GAUGES = ("wet-compression", "leakdown", "borescope")
SPARK = ("spark", "swap-coil", "swap-plug")

JUDGED = {
    "four alike and even": SOUND,
    "near white on injection": SOUND,
    "light soot on direct injection": SOUND,
    "a shade apart": SOUND,
    "touch rich on purpose": SOUND,
    "cold and low, and even": Judged(("unknown", ""), act=("compression",), money=(0, 0)),
    "one at half": Judged(("with-care", ""), {EVERY: "keep"}, GAUGES, (2,), "loses pressure"),
    "half, and oil brings it back": Judged(
        ("with-care", "oil"), act=("", "borescope"), says="rings", money=(1500, 4000)
    ),
    "heard at the exhaust": Judged(("with-care", "wider"), money=(600, 2000), says="exhaust valve"),
    "bubbles": Judged(("no", "crank"), act=("plug", "borescope", "leakdown"), says="coolant"),
    "neighbours low together": Judged(("with-care", "wider"), act=GAUGES, says="gasket between"),
    "all low, oil no help, no power": Judged(says="valve timing", money=(200, 1500)),
    "oil-wet, level pressures": Judged(("with-care", "oil"), {2: "clean"}, GAUGES, says="guides"),
    "oil in the well": Judged(("yes", ""), {EVERY: "keep"}, says="plug well", money=(80, 400)),
    "washed clean among tan": Judged(("no", "crank"), {3: "replace"}, says="coolant"),
    "no compression, holed": Judged(("no", "piston"), {2: "replace"}, says="piston"),
    "four chalk noses on a carburettor": Judged(
        ("with-care", "not under load"), act=("air-leak", "fuel-supply"), says="mixture lean"
    ),
    "melted centre electrode": Judged(
        ("with-care", "not under load"), {2: "replace"}, ("borescope",), (2,), "melted"
    ),
    "four blistered": Judged(
        ("with-care", "not under load"), {EVERY: "replace"}, ("borescope",), says="too hot"
    ),
    "two-stroke short of oil": Judged(("no", "under load"), {1: "replace"}, ("port-look",)),
    "all sooty": Judged(plugs={EVERY: "clean"}, act=("fuel-supply",), says="mixture rich"),
    "one sooty": Judged(plugs={3: "clean", 1: "keep"}, says="soot"),
    "the cylinders of one carburettor sooty": Judged(
        plugs={1: "clean", 2: "clean", 3: "keep"}, act=("fuel-supply",), on=(1, 2), says="front"
    ),
    "coded and wet, the rest tan": Judged(plugs={3: "clean"}, act=SPARK, on=(3,)),
    "coded, wet, and the fault moved with the coil": Judged(
        ("with-care", "unburnt"), says="spark", money=(80, 400)
    ),
    "crack in the nose": Judged(
        plugs={2: "replace"}, act=("renew-plugs",), on=(2,), says="cracked"
    ),
    "bridged gap on a single that stopped": Judged(
        ("with-care", "unburnt"), {1: "regap"}, says="bridged", money=(20, 120)
    ),
    "overdue, worn and missing under load": Judged(
        ("yes", "renew"), {EVERY: "replace"}, ("renew-plugs",), says="worn", money=(60, 400)
    ),
    "two coded that share only age": Judged(
        plugs={EVERY: "replace"}, act=("renew-plugs",), on=(2, 5), says="worn"
    ),
    "weak on all, cupped points": Judged(act=("points",), says="ignition weak"),
    "coded, and fine today": Judged(act=(*SPARK, "plug"), on=(2,), says="comes and goes"),
    "loose, with a puff": Judged(("no", "torqued"), says="not sealing", money=(20, 120)),
    "strap missing": Judged(
        ("no", "missing"), {2: "replace"}, ("piece",), (2,), "strap is missing"
    ),
    "only a part number": Judged(("unknown", ""), money=(0, 0)),
    "only wells": Judged(("unknown", ""), money=(0, 0)),
    "full compression, huge leak-down": Judged(
        act=("compression", "leakdown"), on=(2,), says="contradict"
    ),
    "no spark, and it pulls": Judged(act=("spark", "balance"), on=(2,), says="contradict"),
    "read twice, far apart": Judged(act=("compression",), on=(2,), says="contradict"),
}
