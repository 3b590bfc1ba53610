import { useQuery } from "@tanstack/react-query";
import { api, take, type Schemas } from "../../api/client";
import { askOrRecall } from "../../storage/kept";
import { useWords, type Words } from "../assessment";
import { FiringEnd } from "../plug";

type Suspicion = Schemas["Suspicion"];

const named = (listed: readonly Suspicion[], words: Words) =>
  listed.map((one) => `${words.fault(one.fault)} on ${one.cylinder}`).join("; ");
const km = (distance: number) => `${distance.toLocaleString("en-GB")}\u00a0km`;

/** What became of this engine from inspection to inspection: faults, pressures, gaps. */
export function OverTime({ engine }: { engine: string }) {
  const words = useWords();
  const { data } = useQuery({
    queryKey: ["over-time", engine],
    queryFn: () =>
      askOrRecall(`over-time ${engine}`, () =>
        take(api.GET("/api/engines/{engine_id}/over-time", { params: { path: { engine_id: engine } } })),
      ),
    staleTime: 0,
    retry: false,
  });
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
          Gap {gap.cylinder}: {gap.per_1000_km >= 0 ? "+" : "−"}
          {Math.abs(gap.per_1000_km).toFixed(3)} mm in 1,000 km over {gap.readings} readings
          {gap.limit_km && (
            <>
              ; at its limit with {km(gap.limit_km)} on the plugs, nine times in ten{" "}
              {gap.latest_km ? `between ${km(gap.soonest_km ?? 0)} and ${km(gap.latest_km)}` : `not before ${km(gap.soonest_km ?? 0)}`}
            </>
          )}
          .
        </p>
      ))}
    </section>
  );
}

/** Plugs that were put away, drawn in a row: the next set hangs under it. */
function KeptSet({ set }: { set: Schemas["KeptSet"] }) {
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
