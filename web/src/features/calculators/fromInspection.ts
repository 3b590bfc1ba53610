import { t } from "../../language";
import { useQuery } from "@tanstack/react-query";
import type { Inspection } from "../../api/client";
import type { Quantity } from "../../primitives/number";
import { valueAt } from "../record";
import { kept, openInspection } from "../../storage/kept";
import type { Texts } from "./form";

/** Where the record has what a calculator asks for. */
const TAKES: Record<string, Record<string, string>> = {
  blades: { target: "/engine/specification/gap_max" },
  gap: { minimum: "/engine/specification/gap_min", maximum: "/engine/specification/gap_max" },
  breakdown: { gap: "/engine/specification/gap_max" },
  torque: {
    maker: "/engine/specification/torque_new",
    seat: "/engine/specification/seat",
    wrench_unit: "/refit/wrench/unit",
    wrench_step: "/refit/wrench/step",
    wrench_minimum: "/refit/wrench/minimum",
    wrench_maximum: "/refit/wrench/maximum",
    adaptor_offset: "/refit/wrench/offset",
    wrench_length: "/refit/wrench/length",
  },
  dwell: { dwell_deg: "/distributor/dwell_deg", lobes: "/engine/cylinders" },
  points: { lobes: "/engine/cylinders", known_gap: "/engine/specification/points_gap_min", known_dwell_deg: "/engine/specification/dwell_max_deg", gap: "/distributor/points_gap" },
  pulley: { angle_deg: "/engine/specification/timing_deg_btdc", diameter: "/engine/specification/pulley_diameter" },
  premix: { ratio: "/engine/specification/premix_ratio", fuel: "/refit/premix/fuel" },
  "top-up": { ratio: "/engine/specification/premix_ratio" },
  atmosphere: { altitude_m: "/inspection/altitude_m" },
  cranking: {
    bore: "/engine/bore",
    stroke: "/engine/stroke",
    rod: "/engine/rod",
    compression_ratio: "/engine/compression_ratio",
    intake_closing_deg_abdc: "/engine/intake_closing_deg_abdc",
    altitude_m: "/inspection/altitude_m",
  },
};

function spelt(value: unknown): string {
  if (typeof value !== "object" || value === null) return String(value);
  const { value: number, unit } = value as Quantity;
  return `${number} ${unit}`;
}

export interface Taken {
  title: string;
  texts: Texts;
}

/** What the inspection that was opened last has for a calculator; undefined where it has nothing. */
export function useFromInspection(calculator: string): Taken | undefined {
  const { data } = useQuery({
    queryKey: ["for-calculator", calculator],
    queryFn: async (): Promise<Taken | null> => {
      const id = openInspection();
      const known = id ? await kept<Inspection>(`inspection ${id}`) : undefined;
      if (!known) return null;
      const { document } = known.answer;
      const found = Object.entries(TAKES[calculator] ?? {}).map(([key, path]) => [key, valueAt(document, path)] as const);
      const texts = Object.fromEntries(found.filter(([, value]) => value !== undefined).map(([key, value]) => [key, spelt(value)]));
      return Object.keys(texts).length > 0 ? { title: document.engine.title ?? t("this engine"), texts } : null;
    },
    staleTime: 0,
  });
  return data ?? undefined;
}
