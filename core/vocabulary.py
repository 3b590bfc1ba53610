"""The closed lists of the contract. A word that is not here is refused."""

from __future__ import annotations

CYCLES = ("four-stroke", "two-stroke")
LAYOUTS = ("single", "inline", "vee", "flat", "radial", "other")
FUEL_SYSTEMS = ("carburettor", "throttle-body", "port", "direct")
IGNITIONS = ("coil-on-plug", "wasted-spark", "distributor", "magneto")
COOLINGS = ("liquid", "air")
ASPIRATIONS = ("natural", "boosted")
TRIGGERS = ("points", "electronic", "cdi")
ELECTRODES = ("nickel", "platinum", "iridium")
SEATS = ("gasket", "taper")
SOURCES = ("maker", "advice", "guess")
PURPOSES = ("pre-purchase", "rebuild", "diagnosis", "routine")
LAST_RUNS = ("idle", "load", "stored")
RECENT_WORK = ("plugs", "leads", "coils", "head", "fuel", "unknown")
COMPLAINTS = (
    "misfire", "misfire-under-load", "hard-start", "no-start", "stopped-running", "rough-idle",
    "oil-use", "coolant-loss", "blue-smoke", "white-smoke", "black-smoke", "power-loss",
    "backfire", "ticking", "fuel-smell", "overheating", "high-fuel-use", "knock", "stalling",
    "hesitation", "limp-mode", "warning-lamp",
)  # fmt: skip

HISTORIES = ("known", "in-part", "unknown")
ENGINE_PLACES = ("installed", "stand")
COMPLAINT_WHEN = (
    "cold", "warm", "idle", "load", "high-speed", "wet-weather", "after-standing",
    "after-refuelling", "always",
)  # fmt: skip
COMPLAINT_HOW_OFTEN = ("always", "often", "seldom", "once")
INSTRUMENTS = (
    "compression-gauge", "leakdown-tester", "borescope", "spark-tester", "scan-tool",
    "timing-light", "dwell-meter", "current-clamp",
)  # fmt: skip

LOOK = ("fine",)
CLEANED = ("not", "wiped", "solvent", "brushed")
STANDING = ("none", "trace", "pooled")
DEBRIS = ("none", "light", "heavy")
COMBUSTION_LEAK = ("none", "slight", "strong")
BOOT = ("clean", "oily", "cracked", "exhaust-stained", "tracked", "brittle", "seal-torn")
SEATING = ("loose", "snug", "tight", "over-tight", "seized")
TYPE_MATCH = ("as-specified", "wrong-reach", "wrong-heat-range", "wrong-seat", "mixed-set")
OUTSIDE = ("clean", "oily", "exhaust-stained", "tracked")
SMELL = ("none", "fuel", "stale-fuel", "oil")
THREADS = ("clean", "oily", "anti-seize-heavy", "exhaust-stained", "corroded", "damaged")
DEPOSIT_COLOUR = ("white", "grey", "tan", "brown", "black", "red", "yellow", "green", "blue")
DEPOSIT_TEXTURE = ("clean", "powder", "crust", "glaze", "flake", "speckled", "blistered")
DEPOSIT_AMOUNT = ("none", "light", "moderate", "heavy")
WETNESS = ("dry", "damp", "wet")
WET_WITH = ("fuel", "oil", "coolant", "water", "premix", "unknown")
INSULATOR = ("sound", "cracked-nose", "cracked-body", "chipped", "blistered", "flashover")
CENTRE_ELECTRODE = ("square", "rounded", "eroded", "melted")
GROUND_ELECTRODE = ("square", "rounded", "thinned", "missing", "bent", "melted")
COIL = ("sound", "cracked", "corroded", "connector-broken")
BORE = ("cross-hatched", "polished", "scored", "washed", "rusted")
CROWN = ("dry-carbon", "oily", "washed-clean", "damaged")
CROWN_CARBON = ("none", "light", "heavy")
VALVES = ("even", "burnt-edge", "oily-stems", "heavy-deposit")

COMPRESSION_KIND = ("dry", "wet")
ENGINE_TEMPERATURE = ("cold", "warm", "hot")
THROTTLE = ("open", "closed")
PLUGS_OUT = ("all", "one")
READING_QUALITY = ("good", "seal-leak", "doubtful")
ESCAPES = ("intake", "exhaust", "crankcase", "coolant", "neighbour", "none")
SPARK = ("strong", "weak", "none")
SPARK_CONDITION = ("open-air", "tester")
PULSE = ("present", "absent")
FLOW = ("good", "restricted", "leaking")
FELT = ("none", "slight", "clear")
SWAP_PART = ("coil", "plug", "lead", "injector")
SWAP_RESULT = ("moved", "stayed", "vanished", "unclear")
NOISE = ("puff", "sharp-tap")
REREAD = ("same", "clean", "worse")
PORT_PISTON = ("clean", "scuffed", "seized")

CAP = ("sound", "cracked", "tracked", "corroded")
ROTOR = ("sound", "burnt", "worn")
POINTS = ("flat", "pitted", "cupped")
ADVANCE = ("free", "sticky", "seized")
VACUUM = ("holds", "leaks")
SHAFT = ("tight", "worn")
CONDENSER = ("sound", "weak")
RUBBING_BLOCK = ("sound", "worn")

HEADS = ("aluminium", "iron")
NEW_GROUND_ELECTRODE = ("sound", "bent", "peened")
NEW_CERAMIC = ("sound", "cracked", "loose")
MARKINGS = ("as-expected", "missing", "doubtful")
THREAD_STATE = ("dry", "plated", "anti-seize", "oil", "old-lubricant")
MIXTURES = ("neutral", "touch-rich")
PLUG_POLICIES = ("replace-when-due", "by-condition", "replace-when-out")
GAP_AIMS = ("middle", "minimum", "maximum")
THREAD_SCHOOLS = ("dry", "thin-film")
STARTED = ("at-once", "after-a-while", "no")
BEAT = ("even", "uneven")
CODES_AFTER = ("not-cleared", "stay-clear", "came-back")
COMPLAINT_AFTER = ("gone", "better", "same", "worse")

NEXT_TESTS = (
    "compression", "wet-compression", "leakdown", "swap-coil", "swap-plug", "swap-lead",
    "swap-injector", "spark", "injector", "balance", "borescope", "plug", "well", "reread",
    "seating", "firing-order", "port-look",
)  # fmt: skip

PIECES = ("ground-electrode", "centre-electrode", "ceramic", "other")
PIECE_STATE = ("missing", "found", "burnt-away", "looked-nothing-there")
REPAIRED = (
    "plug", "coil", "lead", "boot", "well-seal", "injector", "rings", "intake-valve",
    "exhaust-valve", "guides", "head-gasket", "piston", "points", "condenser", "cap", "rotor",
    "timing", "mixture", "premix", "fuel-supply", "other",
)  # fmt: skip
REPAIR = ("renewed", "set", "cleaned", "repaired")
NOISE_AFTER = ("gone", "same", "worse")

ACCESS = ("easy", "fair", "awkward")
CONSENT = ("looking-only", "plugs-out", "all-tests")
STEP_STATE = ("done", "skipped")
DAMAGE = ("as-found", "as-left")
ORDER_OF_WORK = ("all-out", "one-at-a-time")
CONSEQUENCES = ("plug-service", "external-seal", "ignition-fuel", "top-end", "bottom-end")
PLUG_ACTIONS = ("keep", "clean", "regap", "replace", "not-seen")
GRADES = ("A", "B", "C", "D", "E", "U")

# The contract's fault names; knowledge/faults.toml has what is known of each, and a test compares.
CYLINDER_FAULTS = (
    "ring-sealing", "intake-valve-sealing", "exhaust-valve-sealing", "valve-stem-oil",
    "head-gasket-coolant", "head-gasket-between", "piston-damage", "combustion-overheat",
    "plug-loose", "plug-worn", "plug-fouled", "plug-gap-bridged", "plug-insulator-cracked",
    "plug-wrong-type", "ignition-weak", "fuel-rich", "fuel-lean", "well-seal",
)  # fmt: skip
ENGINE_FAULTS = (
    "mixture-rich", "mixture-lean", "ignition-weak", "ignition-timing", "leads-crossed",
    "combustion-overheat", "premix-oil-rich", "premix-oil-lean", "valve-timing", "test-condition",
)  # fmt: skip
