"""The closed lists of the contract. A word that is not here is refused."""

from __future__ import annotations

from typing import Any, Literal, get_args

Cycle = Literal["four-stroke", "two-stroke"]
Layout = Literal["single", "inline", "vee", "flat", "radial", "other"]
FuelSystem = Literal["carburettor", "throttle-body", "port", "direct"]
Ignition = Literal["coil-on-plug", "wasted-spark", "distributor", "magneto"]
Cooling = Literal["liquid", "air"]
Aspiration = Literal["natural", "boosted"]
Trigger = Literal["points", "electronic", "cdi"]
Electrode = Literal["nickel", "platinum", "iridium"]
Seat = Literal["gasket", "taper"]
Source = Literal["maker", "advice", "guess"]
Purpose = Literal["pre-purchase", "rebuild", "diagnosis", "routine"]
LastRun = Literal["idle", "load", "stored"]
RecentWork = Literal["plugs", "leads", "coils", "head", "fuel", "unknown"]
Complaint = Literal[
    "misfire", "misfire-under-load", "hard-start", "no-start", "stopped-running", "rough-idle",
    "oil-use", "coolant-loss", "blue-smoke", "white-smoke", "black-smoke", "power-loss",
    "backfire", "ticking", "fuel-smell", "overheating", "high-fuel-use", "knock", "stalling",
    "hesitation", "limp-mode", "warning-lamp",
]  # fmt: skip

# Where in the round somebody speaks.
SpokenRound = Literal[
    "wells", "loosening", "faces", "gaps", "pressures", "leakdown", "running", "fitting", "plan",
]  # fmt: skip
History = Literal["known", "in-part", "unknown"]
EnginePlace = Literal["installed", "stand"]
ComplaintWhen = Literal[
    "cold", "warm", "idle", "load", "high-speed", "wet-weather", "after-standing",
    "after-refuelling", "always",
]  # fmt: skip
ComplaintHowOften = Literal["always", "often", "seldom", "once"]
Instrument = Literal[
    "compression-gauge", "leakdown-tester", "borescope", "spark-tester", "scan-tool",
    "timing-light", "dwell-meter", "current-clamp",
]  # fmt: skip

Look = Literal["fine"]
Cleaned = Literal["not", "wiped", "solvent", "brushed"]
Standing = Literal["none", "trace", "pooled"]
Debris = Literal["none", "light", "heavy"]
CombustionLeak = Literal["none", "slight", "strong"]
Boot = Literal["clean", "oily", "cracked", "exhaust-stained", "tracked", "brittle", "seal-torn"]
Seating = Literal["loose", "snug", "tight", "over-tight", "seized"]
TypeMatch = Literal["as-specified", "wrong-reach", "wrong-heat-range", "wrong-seat", "mixed-set"]
Outside = Literal["clean", "oily", "exhaust-stained", "tracked"]
Smell = Literal["none", "fuel", "stale-fuel", "oil"]
Threads = Literal["clean", "oily", "anti-seize-heavy", "exhaust-stained", "corroded", "damaged"]
DepositColour = Literal["white", "grey", "tan", "brown", "black", "red", "yellow", "green", "blue"]
DepositTexture = Literal["clean", "powder", "crust", "glaze", "flake", "speckled", "blistered"]
DepositAmount = Literal["none", "light", "moderate", "heavy"]
Wetness = Literal["dry", "damp", "wet"]
WetWith = Literal["fuel", "oil", "coolant", "water", "premix", "unknown"]
Insulator = Literal["sound", "cracked-nose", "cracked-body", "chipped", "blistered", "flashover"]
CentreElectrode = Literal["square", "rounded", "eroded", "melted"]
GroundElectrode = Literal["square", "rounded", "thinned", "missing", "bent", "melted"]
CoilState = Literal["sound", "cracked", "corroded", "connector-broken"]
Bore = Literal["cross-hatched", "polished", "scored", "washed", "rusted"]
Crown = Literal["dry-carbon", "oily", "washed-clean", "damaged"]
CrownCarbon = Literal["none", "light", "heavy"]
Valves = Literal["even", "burnt-edge", "oily-stems", "heavy-deposit"]

CompressionKind = Literal["dry", "wet"]
EngineTemperature = Literal["cold", "warm", "hot"]
Throttle = Literal["open", "closed"]
PlugsOut = Literal["all", "one"]
ReadingQuality = Literal["good", "seal-leak", "doubtful"]
Escape = Literal["intake", "exhaust", "crankcase", "coolant", "neighbour", "none"]
Passing = Literal["pass", "fail", "cannot-say"]  # Of a school, by its own rule.
SparkSeen = Literal["strong", "weak", "none"]
SparkCondition = Literal["open-air", "tester"]
Pulse = Literal["present", "absent"]
Flow = Literal["good", "restricted", "leaking"]
Felt = Literal["none", "slight", "clear"]
SwapPart = Literal["coil", "plug", "lead", "injector"]
SwapResult = Literal["moved", "stayed", "vanished", "unclear"]
NoiseKind = Literal["puff", "sharp-tap"]
RereadResult = Literal["same", "clean", "worse"]
PortPiston = Literal["clean", "scuffed", "seized"]

Cap = Literal["sound", "cracked", "tracked", "corroded"]
Rotor = Literal["sound", "burnt", "worn"]
PointFaces = Literal["flat", "pitted", "cupped"]
Advance = Literal["free", "sticky", "seized"]
Vacuum = Literal["holds", "leaks"]
Shaft = Literal["tight", "worn"]
Condenser = Literal["sound", "weak"]
RubbingBlock = Literal["sound", "worn"]

Head = Literal["aluminium", "iron"]
NewGroundElectrode = Literal["sound", "bent", "peened"]
NewCeramic = Literal["sound", "cracked", "loose"]
Marking = Literal["as-expected", "missing", "doubtful"]
ThreadState = Literal["dry", "plated", "anti-seize", "oil", "old-lubricant"]
CompressionSchool = Literal[
    "lowest-75", "lowest-70-floor-100", "peers-10", "peers-15", "specification",
]  # fmt: skip
LeakdownSchool = Literal["loss-25", "loss-20", "loss-10", "spread-10"]
MixtureSchool = Literal["neutral", "touch-rich"]
PlugPolicy = Literal["replace-when-due", "by-condition", "replace-when-out"]
GapAim = Literal["middle", "minimum", "maximum"]
ThreadSchool = Literal["dry", "thin-film"]
Started = Literal["at-once", "after-a-while", "no"]
Beat = Literal["even", "uneven"]
CodesAfter = Literal["not-cleared", "stay-clear", "came-back"]
ComplaintAfter = Literal["gone", "better", "same", "worse"]

NextTest = Literal[
    "compression", "wet-compression", "leakdown", "swap-coil", "swap-plug", "swap-lead",
    "swap-injector", "spark", "injector", "balance", "borescope", "plug", "well", "reread",
    "seating", "firing-order", "port-look", "renew-plugs", "listen", "set-gap", "points", "timing",
    "fuel-supply", "air-leak", "piece",
]  # fmt: skip

Piece = Literal["ground-electrode", "centre-electrode", "ceramic", "other"]
PieceState = Literal["missing", "found", "burnt-away", "looked-nothing-there"]
Repaired = Literal[
    "plug", "coil", "lead", "boot", "well-seal", "injector", "rings", "intake-valve",
    "exhaust-valve", "guides", "head-gasket", "piston", "points", "condenser", "cap", "rotor",
    "timing", "mixture", "premix", "fuel-supply", "other",
]  # fmt: skip
Repair = Literal["renewed", "set", "cleaned", "repaired"]
NoiseAfter = Literal["gone", "same", "worse"]

Access = Literal["easy", "fair", "awkward"]
Consent = Literal["looking-only", "plugs-out", "all-tests"]
StepState = Literal["done", "skipped"]
Damage = Literal["as-found", "as-left"]
OrderOfWork = Literal["all-out", "one-at-a-time"]
Consequence = Literal["plug-service", "external-seal", "ignition-fuel", "top-end", "bottom-end"]
# What is put right, as a price book lists it; a house may price these, or whole classes.
Act = Literal[
    "plug", "thread", "seal", "coil", "injector", "cause-of-heat", "ignition", "leads", "timing",
    "mixture", "premix", "valve-timing", "valve", "guides", "gasket", "rings", "piston",
]  # fmt: skip
PlugAction = Literal["keep", "clean", "regap", "replace", "not-seen"]
Grade = Literal["A", "B", "C", "D", "E", "U"]

# The contract's fault names; knowledge/faults.toml has what is known of each, and a test compares.
CylinderFault = Literal[
    "ring-sealing", "intake-valve-sealing", "exhaust-valve-sealing", "valve-stem-oil",
    "head-gasket-coolant", "head-gasket-between", "piston-damage", "combustion-overheat",
    "plug-loose", "plug-worn", "plug-fouled", "plug-gap-bridged", "plug-insulator-cracked",
    "plug-wrong-type", "ignition-weak", "fuel-rich", "fuel-lean", "well-seal",
]  # fmt: skip
# What it turned out to be may also be the gap alone, on a plug that is not worn.
GapFault = Literal["gap-wide", "gap-narrow"]
FoundFault = CylinderFault | GapFault
EngineFault = Literal[
    "mixture-rich", "mixture-lean", "ignition-weak", "ignition-timing", "leads-crossed",
    "combustion-overheat", "premix-oil-rich", "premix-oil-lean", "valve-timing", "test-condition",
]  # fmt: skip
AnyFault = CylinderFault | EngineFault


def words_of(kind: Any) -> tuple[str, ...]:
    """The words of a closed list, as `words_of(Cycle)`, in the order in which they are offered."""
    return tuple(dict.fromkeys(word for one in get_args(kind) for word in get_args(one) or (one,)))
