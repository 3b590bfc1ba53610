import { useQuery } from "@tanstack/react-query";
import { api, take, type Schemas } from "../../api/client";
import { askOrRecall } from "../../storage/kept";
import { useWords, type Words } from "../assessment";
import { FiringEnd } from "../plug";

type Suspicion = Schemas["Suspicion"];

export const named = (listed: readonly Suspicion[], words: Words) =>
  listed.map((one) => `${words.fault(one.fault)} on ${one.cylinder}`).join("; ");
/** How an engine's history is asked for; the page of the engine and its inspections share it. */
export function useHistory(engine: string) {
  return useQuery({
    queryKey: ["over-time", engine],
    queryFn: () =>
      askOrRecall(`over-time ${engine}`, () =>
        take(api.GET("/api/engines/{engine_id}/over-time", { params: { path: { engine_id: engine } } })),
      ),
    staleTime: 0,
    retry: false,
  });
}

/** What a gap does on the plugs that are in, and when it reaches its limit. */
export function gapTold(gap: Schemas["GapGrowth"]): string {
  const far = (distance: number) => `${distance.toLocaleString("en-GB")}\u00a0${gap.unit}`;
  const [grown, per] = gap.unit === "h" ? [gap.per_1000 / 10, "100\u00a0h"] : [gap.per_1000, "1,000\u00a0km"];
  const growth = `${grown >= 0 ? "+" : "\u2212"}${Math.abs(grown).toFixed(3)}\u00a0mm in ${per} over ${gap.readings} readings`;
  if (!gap.limit) return growth;
  const between = gap.latest ? `between ${far(gap.soonest ?? 0)} and ${far(gap.latest)}` : `not before ${far(gap.soonest ?? 0)}`;
  return `${growth}; at its limit with ${far(gap.limit)} on the plugs, nine times in ten ${between}`;
}

/** What became of this engine from inspection to inspection: faults, pressures, gaps. */
export function OverTime({ engine }: { engine: string }) {
  const words = useWords();
  const { data } = useHistory(engine);
  if (!data || data.steps.length + data.sets.length === 0) return null;
  const changed = data.drift.filter((one) => Math.abs(one.change) >= 0.01);
  return (
    <section aria-label="Over time" className="mt-3 grid gap-1 text-sm">
      <h3 className="border-b border-line text-base font-bold">Over time</h3>
      {data.steps.map((step) => (
        <p key={`${step.since} ${step.date}`}>
          <span className="caption">
            {step.since} to {step.date}:
          </span>{" "}
          {step.appeared.length > 0 && <b>new: {named(step.appeared, words)}. </b>}
          {step.gone.length > 0 && <>no longer suspected: {named(step.gone, words)}. </>}
          {step.appeared.length + step.gone.length === 0 && "nothing came or went."}
        </p>
      ))}
      {data.drift.length > 0 && (
        <p>
          Dry compression since the first reading:{" "}
          {changed.length === 0
            ? "unchanged on every cylinder."
            : changed
                .map((one) => `${one.cylinder} ${one.change > 0 ? "+" : "−"}${Math.abs(Math.round(one.change * 100))}\u00a0%`)
                .join(", ")}
        </p>
      )}
      {data.sets.map((set) => (
        <KeptSet key={set.inspection} set={set} />
      ))}
      {data.gaps.map((gap) => (
        <p key={gap.cylinder}>
          Gap {gap.cylinder}: {gapTold(gap)}.
        </p>
      ))}
    </section>
  );
}

/** Plugs that were put away, drawn in a row: the next set hangs under it. */
export function KeptSet({ set }: { set: Schemas["KeptSet"] }) {
  return (
    <figure className="border-b border-line pb-1">
      <figcaption>
        <b>{set.label}</b>{" "}
        <span className="caption">
          came out {set.date}
          {set.where && `, ${set.where}`}
        </span>
      </figcaption>
      <ol className="flex gap-1 overflow-x-auto">
        {set.plugs.map((one) => (
          <li key={one.number} className="w-16 shrink-0 text-center">
            <FiringEnd plug={one.plug ?? {}} className="w-full" />
            <span className="caption">
              {one.number}
              {one.plug?.gap && `: ${one.plug.gap.value} ${one.plug.gap.unit}`}
            </span>
          </li>
        ))}
      </ol>
    </figure>
  );
}
