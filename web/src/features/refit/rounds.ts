import { t } from "../../language";
import { TORQUE_UNITS } from "../record";
import type { Round } from "../round";
import { fit } from "./fields";

const BASE = "/refit/cylinders/{n}";

/** Every plug turned in by hand, then to torque. */
export const FIT_ROUND: Round = {
  id: "fit",
  title: t("Fitted, then torqued"),
  answers: [
    { key: "n", label: t("Fitted and torqued"), tell: t("by hand first, then to the figure"), whole: true, sets: [[`${BASE}/fitted`, true], [`${BASE}/torqued`, true]] },
    { key: "h", label: t("Fitted by hand"), tell: t("five free turns at least"), sets: [[`${BASE}/fitted`, true]] },
    { key: "o", label: t("The old one back"), tell: t("its gasket is crushed already"), sets: [[`${BASE}/reused`, true]] },
    { key: "y", label: t("Threads dry"), tell: t("as the figure is meant"), sets: [[`${BASE}/threads`, "dry"]] },
    { key: "p", label: t("Plated threads"), tell: t("no paste on them"), sets: [[`${BASE}/threads`, "plated"]] },
    { key: "a", label: t("Anti-seize"), tell: t("the figure is cut for it"), sets: [[`${BASE}/threads`, "anti-seize"]] },
    { key: "s", label: t("Through a hose"), tell: t("it slips before a thread crosses"), sets: [[`${BASE}/through_hose`, true]] },
    { key: "b", label: t("Boot greased"), tell: t("thinly, inside"), sets: [[`${BASE}/boot_greased`, true]] },
    { key: "k", label: t("Its coil back"), tell: t("or its lead, clicked home"), sets: [[`${BASE}/coil_back`, true]] },
  ],
  figure: { kind: "quantity", path: `${BASE}/torque`, label: t("Torque as set"), units: TORQUE_UNITS },
  dialled: true,
  counts: [`${BASE}/torqued`],
  details: [{ title: t("Word by word"), fields: fit(undefined).filter(({ path }) => !path.endsWith("/torque")) }],
};
