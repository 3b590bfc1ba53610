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
  choice("compression", "Which compression school decides", [
    { value: "lowest-75", label: "lowest within 75 % of highest" },
    { value: "lowest-70-floor-100", label: "within 70 %, none under 100 psi" },
    { value: "peers-10", label: "each within 10 % of the mean" },
    { value: "peers-15", label: "each within 15 % of the mean" },
    { value: "specification", label: "maker's figures" },
  ], "lowest within 75 %: it needs no specification and holds whatever the level"),
  choice("leakdown", "Which leak-down school decides", [
    { value: "loss-25", label: "at most 25 % lost" },
    { value: "loss-20", label: "at most 20 %" },
    { value: "loss-10", label: "at most 10 %" },
    { value: "spread-10", label: "none 10 points worse than the best" },
  ], "25 %: the only one with a published source"),
  choice("mixture", "What mixture is right here", [
    { value: "neutral", label: "tan" },
    { value: "touch-rich", label: "a touch rich, on purpose" },
  ], "tan: neither soot nor pale"),
  choice("plugs", "Plugs that come out", [
    { value: "replace-when-due", label: "replaced when due or spoilt" },
    { value: "by-condition", label: "by what they show" },
    { value: "replace-when-out", label: "always replaced" },
  ], "replaced past their interval: they miss under load before they look it"),
  choice("gap_aim", "The gap is set to", [
    { value: "middle", label: "the middle of the range" },
    { value: "minimum", label: "its minimum" },
    { value: "maximum", label: "its maximum" },
  ], "the middle: room for error on both sides"),
  choice("threads", "Threads of plugs", [
    { value: "dry", label: "dry, never lubricated" },
    { value: "thin-film", label: "a thin film, torque cut" },
  ], "dry: the maker's torque is for dry threads, and plated shells need nothing"),
  choice("order_of_work", "Order of work", [
    { value: "all-out", label: "all plugs out, laid in order" },
    { value: "one-at-a-time", label: "one at a time" },
  ], "as the job asks for"),
];

export const CLASSES: readonly { value: Class; label: string }[] = [
  { value: "plug-service", label: "Plug service" },
  { value: "external-seal", label: "External seal" },
  { value: "ignition-fuel", label: "Ignition or fuel" },
  { value: "top-end", label: "Top end" },
  { value: "bottom-end", label: "Bottom end" },
];

export const TESTS = [
  "compression", "wet-compression", "leakdown", "swap-coil", "swap-plug", "swap-lead", "swap-injector", "spark",
  "injector", "balance", "borescope", "plug", "well", "reread", "seating", "firing-order", "port-look",
  "renew-plugs", "listen", "set-gap", "points", "timing", "fuel-supply", "air-leak", "piece",
] as const;
export type Test = (typeof TESTS)[number];

/** The price book by act: for each cylinder, or for the job where all share it. */
export const ACTS: readonly { value: Class; label: string }[] = [
  { value: "plug", label: "a plug" },
  { value: "thread", label: "a thread repaired" },
  { value: "seal", label: "a well seal" },
  { value: "coil", label: "a coil, lead or boot" },
  { value: "injector", label: "an injector" },
  { value: "leads", label: "leads put right" },
  { value: "ignition", label: "points, condenser, cap" },
  { value: "timing", label: "ignition timing" },
  { value: "mixture", label: "mixture set" },
  { value: "premix", label: "a fresh mix" },
  { value: "cause-of-heat", label: "the cause of heat" },
  { value: "valve-timing", label: "valve timing" },
  { value: "valve", label: "a valve, head off besides" },
  { value: "guides", label: "guides of one, head off besides" },
  { value: "gasket", label: "a gasket, head off besides" },
  { value: "rings", label: "rings of one, engine apart besides" },
  { value: "piston", label: "a piston, engine apart besides" },
];
