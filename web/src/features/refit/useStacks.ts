import { useQuery } from "@tanstack/react-query";
import type { Quantity } from "../../primitives/number";
import { calculate } from "../calculators";

export interface Stack {
  blades: readonly Quantity[];
  total: Quantity;
  error: Quantity;
}

/** The stacks of blades nearest to a gap, best first; the last answer stands in without a network. */
export function useStacks(target: Quantity | undefined, blades: readonly Quantity[] | undefined) {
  const keys = { target, blades, most: 3 };
  const { data, error } = useQuery({
    queryKey: ["calculate", "blades", keys],
    queryFn: () => calculate("blades", keys),
    enabled: target !== undefined && blades !== undefined && blades.length > 0,
    retry: false,
  });
  return { stacks: data?.combinations as readonly Stack[] | undefined, error };
}
