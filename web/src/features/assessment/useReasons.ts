import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { api, take, type Assessment } from "../../api/client";
import { askOrRecall } from "../../storage/kept";

// Longer than a hand takes from one entry to the next: reasons are for whoever looks up.
const SETTLED_MS = 800;

interface Fault {
  fault: string;
  because: unknown[];
}

/** The same faults with the reasons that another assessment found. */
function reasoned<F extends Fault>(faults: readonly F[], by: readonly F[] | undefined): F[] {
  return faults.map((one) => {
    const because = by?.find((other) => other.fault === one.fault)?.because;
    return because ? { ...one, because } : one;
  });
}

function withReasons(live: Assessment, explained: Assessment): Assessment {
  return {
    ...live,
    next_tests: explained.next_tests,
    engine: { ...live.engine, faults: reasoned(live.engine.faults, explained.engine.faults) },
    cylinders: live.cylinders.map((own) => ({
      ...own,
      faults: reasoned(own.faults, explained.cylinders.find((one) => one.number === own.number)?.faults),
    })),
    banks: live.banks.map((own) => ({
      ...own,
      faults: reasoned(own.faults, explained.banks.find((one) => one.name === own.name)?.faults),
    })),
    pairs: live.pairs.map((own) => ({
      ...own,
      because:
        explained.pairs.find((one) => one.cylinders.join() === own.cylinders.join())?.because ?? own.because,
    })),
  };
}

/** A number once it has stood still for a moment. */
function useSettled(value: number | undefined): number | undefined {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), settled === undefined ? 0 : SETTLED_MS);
    return () => clearTimeout(timer);
  }, [value, settled]);
  return settled;
}

/**
 * The live assessment with reasons and next tests. Weighing every finding takes the server a moment,
 * so they follow once recording pauses; until then the last ones stand, and `settling` says so.
 */
export function useReasons(
  inspection: string,
  sequence: number | undefined,
  live: Assessment | undefined,
): { assessment: Assessment | undefined; settling: boolean } {
  const settled = useSettled(sequence);
  const { data, error } = useQuery({
    queryKey: ["reasons", inspection, settled],
    queryFn: () =>
      askOrRecall(`reasons ${inspection}`, () =>
        take(
          api.GET("/api/inspections/{inspection_id}/reasons", { params: { path: { inspection_id: inspection } } }),
        ),
      ),
    enabled: settled !== undefined,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
  const assessment = useMemo(
    () => (live && data ? withReasons(live, data.assessment) : live),
    [live, data],
  );
  return { assessment, settling: !error && data?.sequence !== sequence };
}
