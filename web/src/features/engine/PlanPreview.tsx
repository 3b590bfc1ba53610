import { t } from "../../language";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, Refused, take, type Engine, type Plan } from "../../api/client";
import { Block } from "./Block";

/** The plan of an engine that is being described, to hold against the real one. */
export function PlanPreview({ engine, proposed }: { engine: Engine; proposed: Plan | undefined }) {
  const drawn = {
    cycle: engine.cycle,
    layout: engine.layout,
    cylinders: engine.cylinders,
    banks: engine.banks,
    ignition: engine.ignition,
    // Half typed it is no order yet.
    firing_order: engine.firing_order?.length === engine.cylinders ? engine.firing_order : undefined,
  };
  const { data, error } = useQuery({
    queryKey: ["engine-plan", drawn],
    queryFn: () => take(api.POST("/api/engine-plan", { body: { engine: drawn } })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  // Where nobody answers, the preset's own plan stands in.
  const away = error instanceof Refused && error.passing;
  const plan = data ?? (away ? proposed : undefined);
  return (
    <section className="grid content-start gap-2">
      <h2 className="font-bold">{t("Is this how it is numbered?")}</h2>
      {plan && (
        <Block plan={plan} radial={engine.layout === "radial"} label={t("Plan of the new engine")} compact>
          {(number) => (
            <span className="grid h-full place-items-center rounded-full border-2 border-teal bg-sheet text-2xl font-bold">
              {number}
            </span>
          )}
        </Block>
      )}
      {error && !away && <p className="text-sm text-rust">{error.message}</p>}
      <p className="text-sm text-soft">
        {t("Front means the engine's front, whichever way it sits in its machine. On most vee engines the bank that stands further forward holds number 1, but makers differ.")}
      </p>
      {plan && plan.coils.length > 0 && (
        <p className="text-sm">{t("Share a coil: {{coils}}", { coils: plan.coils.map((pair) => pair.join(" and ")).join("; ") })}</p>
      )}
    </section>
  );
}
