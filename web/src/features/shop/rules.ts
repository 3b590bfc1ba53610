import { t } from "../../language";
import type { Schemas } from "../../api/client";
import type { Option } from "../../primitives/Choice";

export type Rules = Schemas["Rules"]["rules"];
export type Class = keyof NonNullable<Rules["prices"]>;
type Chosen = "compression" | "leakdown" | "order_of_work" | "mixture" | "plugs" | "gap_aim" | "threads";

interface RuleChoice {
  field: Chosen;
  label: string;
  options: readonly Option<string>[];
  /** The default and the reason for it. */
  absent: string;
}

/** A choice whose words are those of the contract. */
function choice<F extends Chosen>(field: F, label: string, options: readonly Option<NonNullable<Rules[F]>>[], absent: string): RuleChoice {
  return { field, label, options, absent };
}

/** The schools and preferences of a house, each with its default and why; the default comes first. */
export const CHOICES: readonly RuleChoice[] = [
  choice("compression", t("Which compression school decides"), [
    { value: "lowest-75", label: t("lowest within 75 % of highest") },
    { value: "lowest-70-floor-100", label: t("within 70 %, none under 100 psi") },
    { value: "peers-10", label: t("each within 10 % of the mean") },
    { value: "peers-15", label: t("each within 15 % of the mean") },
    { value: "specification", label: t("maker's figures") },
  ], t("lowest within 75 %: it needs no specification and holds whatever the level")),
  choice("leakdown", t("Which leak-down school decides"), [
    { value: "loss-25", label: t("at most 25 % lost") },
    { value: "loss-20", label: t("at most 20 %") },
    { value: "loss-10", label: t("at most 10 %") },
    { value: "spread-10", label: t("none 10 points worse than the best") },
  ], t("25 %: the only one with a published source")),
  choice("mixture", t("What mixture is right here"), [
    { value: "neutral", label: t("tan") },
    { value: "touch-rich", label: t("a touch rich, on purpose") },
  ], t("tan: neither soot nor pale")),
  choice("plugs", t("Plugs that come out"), [
    { value: "replace-when-due", label: t("replaced when due or spoilt") },
    { value: "by-condition", label: t("by what they show") },
    { value: "replace-when-out", label: t("always replaced") },
  ], t("replaced past their interval: they miss under load before they look it")),
  choice("gap_aim", t("The gap is set to"), [
    { value: "middle", label: t("the middle of the range") },
    { value: "minimum", label: t("its minimum") },
    { value: "maximum", label: t("its maximum") },
  ], t("the middle: room for error on both sides")),
  choice("threads", t("Threads of plugs"), [
    { value: "dry", label: t("dry, never lubricated") },
    { value: "thin-film", label: t("a thin film, torque cut") },
  ], t("dry: the maker's torque is for dry threads, and plated shells need nothing")),
  choice("order_of_work", t("Order of work"), [
    { value: "all-out", label: t("all plugs out, laid in order") },
    { value: "one-at-a-time", label: t("one at a time") },
  ], t("as the job asks for")),
];

export const CLASSES: readonly { value: Class; label: string }[] = [
  { value: "plug-service", label: t("Plug service") },
  { value: "external-seal", label: t("External seal") },
  { value: "ignition-fuel", label: t("Ignition or fuel") },
  { value: "top-end", label: t("Top end") },
  { value: "bottom-end", label: t("Bottom end") },
];

export const TESTS = [
  "compression", "wet-compression", "leakdown", "swap-coil", "swap-plug", "swap-lead", "swap-injector", "spark",
  "injector", "balance", "borescope", "plug", "well", "reread", "seating", "firing-order", "port-look",
  "renew-plugs", "listen", "set-gap", "points", "timing", "fuel-supply", "air-leak", "piece",
] as const;
export type Test = (typeof TESTS)[number];

/** The price book by act: for each cylinder, or for the job where all share it. */
export const ACTS: readonly { value: Class; label: string }[] = [
  { value: "plug", label: t("a plug") },
  { value: "thread", label: t("a thread repaired") },
  { value: "seal", label: t("a well seal") },
  { value: "coil", label: t("a coil, lead or boot") },
  { value: "injector", label: t("an injector") },
  { value: "leads", label: t("leads put right") },
  { value: "ignition", label: t("points, condenser, cap") },
  { value: "timing", label: t("ignition timing") },
  { value: "mixture", label: t("mixture set") },
  { value: "premix", label: t("a fresh mix") },
  { value: "cause-of-heat", label: t("the cause of heat") },
  { value: "valve-timing", label: t("valve timing") },
  { value: "valve", label: t("a valve, head off besides") },
  { value: "guides", label: t("guides of one, head off besides") },
  { value: "gasket", label: t("a gasket, head off besides") },
  { value: "rings", label: t("rings of one, engine apart besides") },
  { value: "piston", label: t("a piston, engine apart besides") },
];
