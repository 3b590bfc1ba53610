import { t } from "../../language";
import { useQuery } from "@tanstack/react-query";
import { api, take, type Schemas } from "../../api/client";
import { askOrRecall } from "../../storage/kept";
import { useWords, type Words } from "../assessment";
import { FiringEnd } from "../plug";

type Suspicion = Schemas["Suspicion"];

export const named = (listed: readonly Suspicion[], words: Words) =>
  listed.map((one) => t("{{fault}} on {{cylinder}}", { fault: words.fault(one.fault), cylinder: one.cylinder })).join("; ");
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
  const [grown, per] = gap.unit === "h" ? [gap.per_1000 / 10, t("100 h")] : [gap.per_1000, t("1,000 km")];
  const growth = t("{{part}}{{grown}} mm in {{per}} over {{readings}} readings", { part: grown >= 0 ? "+" : "\u2212", grown: Math.abs(grown).toFixed(3), per, readings: gap.readings });
  if (!gap.limit) return growth;
  const between = gap.latest ? t("between {{soonest}} and {{latest}}", { soonest: far(gap.soonest ?? 0), latest: far(gap.latest) }) : t("not before {{soonest}}", { soonest: far(gap.soonest ?? 0) });
  return t("{{growth}}; at its limit with {{limit}} on the plugs, nine times in ten {{between}}", { growth, limit: far(gap.limit), between });
}

/** What became of this engine from inspection to inspection: faults, pressures, gaps. */
export function OverTime({ engine }: { engine: string }) {
  const words = useWords();
  const { data } = useHistory(engine);
  if (!data || data.steps.length + data.sets.length === 0) return null;
  const changed = data.drift.filter((one) => Math.abs(one.change) >= 0.01);
  return (
    <section aria-label={t("Over time")} className="mt-3 grid gap-1 text-sm">
      <h3 className="border-b border-line text-base font-bold">{t("Over time")}</h3>
      {data.steps.map((step) => (
        <p key={`${step.since} ${step.date}`}>
          <span className="caption">
            {t("{{since}} to {{date}}:", { since: step.since, date: step.date })}
          </span>{" "}
          {step.appeared.length > 0 && <b>{t("new: {{appeared}}.", { appeared: named(step.appeared, words) })}{" "}</b>}
          {step.gone.length > 0 && <>{t("no longer suspected: {{gone}}.", { gone: named(step.gone, words) })}{" "}</>}
          {step.appeared.length + step.gone.length === 0 && t("nothing came or went.")}
        </p>
      ))}
      {data.drift.length > 0 && (
        <p>
          {t("Dry compression since the first reading: {{part}}", { part: changed.length === 0
            ? t("unchanged on every cylinder.")
            : changed
                .map((one) => `${one.cylinder} ${one.change > 0 ? "+" : "−"}${Math.abs(Math.round(one.change * 100))}\u00a0%`)
                .join(", ") })}
        </p>
      )}
      {data.sets.map((set) => (
        <KeptSet key={set.inspection} set={set} />
      ))}
      {data.gaps.map((gap) => (
        <p key={gap.cylinder}>
          {t("Gap {{cylinder}}: {{gap}}.", { cylinder: gap.cylinder, gap: gapTold(gap) })}
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
          {t("came out {{date}}{{where}}", { date: set.date, where: set.where && `, ${set.where}` })}
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
