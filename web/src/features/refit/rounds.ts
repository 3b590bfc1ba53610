import { TORQUE_UNITS } from "../record";
import type { Round } from "../round";
import { fit } from "./fields";

const BASE = "/refit/cylinders/{n}";

/** Every plug turned in by hand, then to torque. */
export const FIT_ROUND: Round = {
  id: "fit",
  title: "Fitted, then torqued",
  answers: [
    { key: "n", label: "Fitted and torqued", tell: "by hand first, then to the figure", whole: true, sets: [[`${BASE}/fitted`, true], [`${BASE}/torqued`, true]] },
    { key: "h", label: "Fitted by hand", tell: "five free turns at least", sets: [[`${BASE}/fitted`, true]] },
    { key: "o", label: "The old one back", tell: "its gasket is crushed already", sets: [[`${BASE}/reused`, true]] },
    { key: "y", label: "Threads dry", tell: "as the figure is meant", sets: [[`${BASE}/threads`, "dry"]] },
    { key: "p", label: "Plated threads", tell: "no paste on them", sets: [[`${BASE}/threads`, "plated"]] },
    { key: "a", label: "Anti-seize", tell: "the figure is cut for it", sets: [[`${BASE}/threads`, "anti-seize"]] },
    { key: "s", label: "Through a hose", tell: "it slips before a thread crosses", sets: [[`${BASE}/through_hose`, true]] },
    { key: "b", label: "Boot greased", tell: "thinly, inside", sets: [[`${BASE}/boot_greased`, true]] },
    { key: "k", label: "Its coil back", tell: "or its lead, clicked home", sets: [[`${BASE}/coil_back`, true]] },
  ],
  figure: { kind: "quantity", path: `${BASE}/torque`, label: "Torque as set", units: TORQUE_UNITS },
  counts: [`${BASE}/torqued`],
  details: [{ title: "Word by word", fields: fit(undefined).filter(({ path }) => !path.endsWith("/torque")) }],
};
