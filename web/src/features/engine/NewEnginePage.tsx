import { t } from "../../language";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { api, Refused, take, type Engine } from "../../api/client";
import { Button } from "../../primitives/Button";
import { SelectField, TextField } from "../../primitives/Field";
import { NumberField, QuantityEntry } from "../../primitives/number";
import { LENGTH_UNITS, PRESSURE_UNITS } from "../record";
import { usePageTitle } from "../../app/usePageTitle";
import { askOrRecall } from "../../storage/kept";
import { addEngineHere, beginInspection } from "../inspection/begin";
import { PlanPreview } from "./PlanPreview";
import { FUEL, IGNITION } from "./options";

type Specification = NonNullable<Engine["specification"]>;

const NO_PLAN = { stations: [], neighbours: [], coils: [] };
const STARTING = "inline-4";

/** Describe an engine: a preset as a proposal, the drawn plan to confirm it. */
export function NewEnginePage() {
  const navigate = useNavigate();
  const presets = useQuery({
    queryKey: ["engine-presets"],
    queryFn: () => askOrRecall("engine-presets", () => take(api.GET("/api/engine-presets"))),
    staleTime: Infinity,
  });
  const [asked] = useSearchParams();
  const engines = useQuery({
    queryKey: ["engines", ""],
    queryFn: () => askOrRecall("engines", () => take(api.GET("/api/engines", { params: { query: { q: "" } } }))),
  });
  usePageTitle(t("New engine"));
  // Made here, so that adding it twice adds it once.
  const [id] = useState(() => crypto.randomUUID());
  const [like, setLike] = useState(asked.get("like") ?? "");
  const model = engines.data?.find((one) => one.id === like);
  const [title, setTitle] = useState("");
  const [identifier, setIdentifier] = useState("");
  const [chosenCycle, setCycle] = useState<Engine["cycle"] | undefined>();
  const [presetId, setPresetId] = useState<string>(STARTING);
  const [order, setOrder] = useState<string | undefined>();
  const [ignition, setIgnition] = useState<NonNullable<Engine["ignition"]> | "">("");
  const [fuel, setFuel] = useState<NonNullable<Engine["fuel_system"]> | "">("");
  const [ratio, setRatio] = useState<number | undefined>();
  const [said, setSpecification] = useState<Specification>({});
  const twin = engines.data?.find((one) => identifier.trim() !== "" && one.identifier.toLowerCase() === identifier.trim().toLowerCase());
  const preset = presets.data?.find((one) => one.id === presetId);
  // Like one that the shop knows: all of it but what it is called.
  const { title: _title, identifier: _identifier, ...kind } = model?.data ?? ({} as Engine);
  void [_title, _identifier];
  const proposed = (model ? kind : (preset?.engine ?? {})) as Partial<Engine>;
  const cycle = chosenCycle ?? proposed.cycle ?? "four-stroke";
  const specification = { ...proposed.specification, ...said };
  const proposedOrder = proposed.firing_order?.join(" ") ?? "";
  const numbers = (order ?? proposedOrder).split(/[^\d]+/).filter(Boolean).map(Number);
  const engine = {
    layout: "inline",
    cylinders: 4,
    ...proposed,
    title: title.trim(),
    ...(identifier.trim() && { identifier: identifier.trim() }),
    cycle,
    firing_order: numbers.length > 0 ? numbers : undefined,
    ...(ignition && { ignition }),
    ...(fuel && { fuel_system: fuel }),
    ...(ratio !== undefined && { compression_ratio: ratio }),
    specification,
  } as Engine;
  const specify = (field: keyof Specification) => (value: unknown) =>
    setSpecification((known) => ({ ...known, [field]: value }) as Specification);
  const add = useMutation({
    mutationFn: async () => {
      const here = { id, data: engine, plan: model?.plan ?? preset?.plan ?? NO_PLAN };
      try {
        const { plan, data } = await take(api.POST("/api/engines", { body: { id, data: engine } }));
        return beginInspection({ id, plan, data });
      } catch (error) {
        // A refusal is for the person; where nobody answers, the engine waits here like any entry.
        if (!(error instanceof Refused) || !error.passing) throw error;
        addEngineHere(here);
        return beginInspection(here);
      }
    },
    onSuccess: (inspection) => void navigate(`/inspections/${inspection}`),
  });
  const problems = add.error instanceof Refused ? add.error.problems : [];
  const wrong = (path: string) => problems.find((one) => one.path.startsWith(path))?.expected;
  return (
    <form
      className="grid gap-4 lg:grid-cols-[1fr_420px]"
      onSubmit={(event) => {
        event.preventDefault();
        add.mutate();
      }}
      // Enter finishes a field; an engine is added by its button alone.
      onKeyDown={(event) => {
        if (event.key === "Enter" && event.target instanceof HTMLInputElement) event.preventDefault();
      }}
    >
      <section className="sheet grid content-start gap-3 p-4">
        <h1 className="text-xl font-bold">{t("New engine")}</h1>
        <SelectField
          label={t("Like one that the shop knows")}
          value={like}
          empty={t("none: described here")}
          options={(engines.data ?? []).map((one) => ({ value: one.id, label: `${one.title} ${one.identifier}` }))}
          onChange={setLike}
          hint={t("Takes over layout, order and figures; name and mark are its own.")}
        />
        <div className="grid gap-3 sm:grid-cols-2">
          <TextField label={t("Name")} required value={title} error={wrong("/engine/title")} onChange={(e) => setTitle(e.target.value)} />
          <TextField label={t("Number or mark")} value={identifier} onChange={(e) => setIdentifier(e.target.value)} />
          {twin && (
            <p role="status" className="border-l-4 border-ochre pl-2 text-sm sm:col-span-2">
              {t("{{title}} has this mark already: if it is the same engine, inspect that one.", { title: twin.title })}
            </p>
          )}
          <SelectField
            label={t("Layout and numbering")}
            disabled={model !== undefined}
            value={presetId}
            options={(presets.data ?? []).map((one) => ({ value: one.id, label: one.label }))}
            onChange={(next) => {
              setPresetId(next);
              setOrder(undefined);
            }}
            hint={t("A proposal: confirm it on the plan.")}
          />
          <SelectField
            label={t("Cycle")}
            value={cycle}
            options={[
              { value: "four-stroke", label: t("four-stroke") },
              { value: "two-stroke", label: t("two-stroke") },
            ]}
            onChange={(next) => setCycle(next || "four-stroke")}
          />
          <TextField
            label={t("Firing order")}
            value={order ?? proposedOrder}
            error={wrong("/engine/firing_order")}
            hint={t("Makers differ: check it against the engine.")}
            onChange={(e) => setOrder(e.target.value)}
          />
          <SelectField label={t("Ignition")} value={ignition || (proposed.ignition ?? "")} options={IGNITION} onChange={setIgnition} empty={t("not known")} />
          <SelectField label={t("Fuel")} value={fuel || (proposed.fuel_system ?? "")} options={FUEL} onChange={setFuel} empty={t("not known")} />
          <NumberField label={t("Compression ratio")} value={ratio ?? proposed.compression_ratio} error={wrong("/engine/compression_ratio")} onChange={setRatio} />
        </div>
        <h2 className="mt-2 font-bold">{t("Specification, as printed")}</h2>
        <div className="grid gap-3 sm:grid-cols-2">
          <QuantityEntry absent={t("not given")} label={t("Gap from")} units={LENGTH_UNITS} fallback="mm" value={specification.gap_min} onChange={specify("gap_min")} error={wrong("/engine/specification/gap_min")} />
          <QuantityEntry absent={t("not given")} label={t("Gap to")} units={LENGTH_UNITS} fallback="mm" value={specification.gap_max} onChange={specify("gap_max")} error={wrong("/engine/specification/gap_max")} />
          <QuantityEntry absent={t("not given")} label={t("Compression at least")} units={PRESSURE_UNITS} fallback="psi" value={specification.compression_min} onChange={specify("compression_min")} error={wrong("/engine/specification/compression_min")} />
          <QuantityEntry absent={t("not given")} label={t("Compression up to")} units={PRESSURE_UNITS} fallback="psi" value={specification.compression_max} onChange={specify("compression_max")} error={wrong("/engine/specification/compression_max")} />
        </div>
        {add.error && (
          <div role="alert" className="text-rust">
            {problems.length === 0 && <p>{add.error.message}</p>}
            {problems.map((one) => (
              <p key={one.path}>
                <code>{one.path}</code>: {one.expected}
              </p>
            ))}
          </div>
        )}
        <div className="flex gap-2">
          <Button type="submit" weight="main" disabled={add.isPending || !preset}>
            {t("Add and open an inspection")}
          </Button>
          <Button onClick={() => void navigate("/")}>{t("Cancel")}</Button>
        </div>
      </section>
      <PlanPreview engine={engine} proposed={model?.plan ?? preset?.plan} />
    </form>
  );
}
