import { describe, expect, it } from "vitest";
import { conditions } from "../compression/conditions";
import { DISTRIBUTOR, ENGINE, FIGURES, ITS_PAST, THIS_JOB } from "../history/findings";
import * as prove from "../prove/fields";
import type { Document } from "../../api/client";
import type { Field, Group } from "../record";
import * as refit from "../refit/fields";
import type { Round } from "../round";
import { roundOf, STEPS } from "./steps";

const FILES = import.meta.glob<string>("../**/*.{ts,tsx}", { query: "?raw", import: "default", eager: true });
const SCHEMA = Object.values(import.meta.glob<string>("../../../../docs/inspection.schema.json", { query: "?raw", import: "default", eager: true }))[0] ?? "{}";

/** Fields that no table asks: the file that does, and writes the word. */
const BY_HAND: Record<string, string> = {
  "/engine/layout": "history/EngineEntry.tsx",
  "/engine/cylinders": "history/EngineEntry.tsx",
  "/engine/firing_order": "history/EngineEntry.tsx",
  "/engine/banks": "history/EngineEntry.tsx",
  "/engine/feeds": "history/EngineEntry.tsx",
  "/engine/specification/sources": "history/Sources.tsx",
  "/engine/tools/socket": "plan/PlanEntry.tsx",
  "/engine/tools/extension": "plan/PlanEntry.tsx",
  "/engine/tools/adapter": "plan/PlanEntry.tsx",
  "/inspection/order": "bench/OrderEntry.tsx",
  "/inspection/scope": "bench/OrderEntry.tsx",
  "/inspection/said": "history/NotesEntry.tsx",
  "/inspection/findings": "history/NotesEntry.tsx",
  "/inspection/not_inspected": "history/NotesEntry.tsx",
  "/inspection/note": "history/NotesEntry.tsx",
  "/inspection/photos": "history/NotesEntry.tsx",
  "/cylinders/*/access": "plan/PlanEntry.tsx",
  "/cylinders/*/photos": "plug/PlugEntry.tsx",
  "/tests/compression/*/kind": "compression/useCompressionTest.ts",
  "/tests/compression/*/readings/*/strokes": "compression/CompressionEntry.tsx",
  "/tests/compression/*/readings/*/instrument": "compression/GaugeCapture.tsx",
  "/tests/relative/*/share": "signals/TracePanel.tsx",
  "/tests/relative/*/spread": "signals/TracePanel.tsx",
  "/tests/relative/*/instrument": "signals/TracePanel.tsx",
  "/tests/swap": "running/Swaps.tsx",
  "/work/consent": "plan/PlanEntry.tsx",
  "/work/consent_by": "plan/PlanEntry.tsx",
  "/work/first_guess/cylinders": "running/FirstGuess.tsx",
  "/work/first_guess/fault": "running/FirstGuess.tsx",
  "/work/first_guess/text": "running/FirstGuess.tsx",
  "/work/steps": "plan/PlanEntry.tsx",
  "/work/removed": "plan/Removed.tsx",
  "/work/pieces": "plan/Pieces.tsx",
  "/work/damage": "plan/Damage.tsx",
  "/judgement/grade": "handover/Judgement.tsx",
  "/judgement/reason": "handover/Judgement.tsx",
  "/judgement/cylinders": "handover/Judgement.tsx",
  "/refit/cylinders/*/plug/gap": "refit/Gaps.tsx",
  "/refit/cylinders/*/plug/gap_passes": "refit/Gaps.tsx",
  "/refit/cylinders/*/plug/gap_refuses": "refit/Gaps.tsx",
  "/refit/cylinders/*/plug/gap_blades": "refit/Gaps.tsx",
  "/refit/cylinders/*/accepted": "refit/Gaps.tsx",
  "/refit/refused": "refit/fields.ts",
  "/refit/repairs": "refit/Repairs.tsx",
  "/refit/engine_temperature": "refit/Fit.tsx",
  "/refit/steps": "refit/Fit.tsx",
  "/refit/tools_out": "refit/Fit.tsx",
  "/refit/tools_back": "refit/Fit.tsx",
  "/refit/points": "refit/Points.tsx",
  "/refit/closed": "refit/Fit.tsx",
  "/proof/follow_up": "prove/ProveEntry.tsx",
  "/proof/followed_up": "prove/ProveEntry.tsx",
  "/outcome/date": "handover/Outcome.tsx",
  "/outcome/engine_faults": "handover/Outcome.tsx",
  "/outcome/cylinders": "handover/Outcome.tsx",
  "/outcome/note": "handover/Outcome.tsx",
  ...Object.fromEntries(
    ["name", "lubricated_cut", "hourly_rate", "currency", "prices"].map((field) => [`/house_rules/${field}`, "shop/RulesPage.tsx"]),
  ),
  ...Object.fromEntries(
    ["compression", "order_of_work", "leakdown", "mixture", "plugs", "gap_aim", "threads"].map((field) => [`/house_rules/${field}`, "shop/rules.ts"]),
  ),
  "/house_rules/minutes": "shop/Minutes.tsx",
  "/house_rules/odds": "shop/RulesPage.tsx",
};
/** Said by the file itself, not by a person. */
const OF_THE_FILE = ["/format", "/version"];

interface Node {
  $ref?: string;
  properties?: Record<string, Node>;
  items?: Node;
}

/** Every place of the contract where something can be said, `*` for an item of a list. */
function leaves(): string[] {
  const schema = JSON.parse(SCHEMA) as Node & { $defs: Record<string, Node> };
  const found: string[] = [];
  const walk = (node: Node, path: string): void => {
    const at = node.$ref ? schema.$defs[node.$ref.split("/").at(-1) ?? ""] : node;
    const item = at?.items?.$ref ? schema.$defs[at.items.$ref.split("/").at(-1) ?? ""] : at?.items;
    if (at?.properties && !("value" in at.properties)) {
      for (const [name, inner] of Object.entries(at.properties)) walk(inner, `${path}/${name}`);
    } else if (item?.properties && !("value" in item.properties)) walk(item, `${path}/*`);
    else if (!/\/\*\/(number|cylinder|id|name)$/.test(path)) found.push(path);
  };
  walk(schema, "");
  return found;
}

const RECORD = { engine: { cylinders: 4, cycle: "two-stroke" }, tests: {} } as unknown as Document;
const rounds: readonly Round[] = STEPS.flatMap((step) => step.parts).flatMap((part) => roundOf(part, RECORD) ?? []);
const of = (groups: readonly Group[]): readonly Field[] => groups.flatMap((group) => group.fields);
const asked: readonly Field[] = [
  ...rounds.flatMap((round) => [...of(round.details), ...(round.figure ? [round.figure] : [])]),
  ...of([...THIS_JOB, ...ITS_PAST, ...FIGURES, ...ENGINE, ...DISTRIBUTOR, ...refit.POINTS, prove.RUN, prove.AFTERWARDS]),
  ...[...refit.SHAPES.flat(), ...refit.LOOKS, ...refit.WRENCH, ...refit.PREMIX, ...prove.KEPT],
  ...conditions("/tests/compression/{n}", "wet"),
];

describe("every field of the contract", () => {
  const places = new Set([
    ...asked.map((field) => field.path),
    ...rounds.flatMap((round) => round.answers.flatMap((answer) => answer.sets.map(([path]) => path))),
  ].map((path) => path.replace(/\/tests\/(compression|leakdown)\/[^/]+/, "/tests/$1/*").replaceAll("{n}", "*")));

  it("has a place on screen", () => {
    const byHand = Object.keys(BY_HAND);
    const homeless = leaves().filter(
      (path) => !places.has(path) && !OF_THE_FILE.includes(path) && !byHand.some((known) => path === known || path.startsWith(`${known}/`)),
    );
    expect(homeless).toEqual([]);
  });

  it("is written by the file that is said to", () => {
    for (const [path, file] of Object.entries(BY_HAND)) {
      expect(FILES[`../${file}`], `${path} in ${file}`).toMatch(new RegExp(`\\b${path.split("/").filter((step) => step !== "*").at(-1)}\\b`));
    }
  });

  it("is one that the contract has", () => {
    const known = leaves();
    const lists = new Set(known.map((path) => path.replace(/\/\*.*$/, "")));
    for (const path of places) expect(known.includes(path) || lists.has(path), path).toBe(true);
  });
});
