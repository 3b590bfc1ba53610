import { t } from "../../language";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, take, type Plan } from "../../api/client";
import { Button } from "../../primitives/Button";
import { SelectField } from "../../primitives/Field";
import { LineEntry } from "../../primitives/LineEntry";
import { askOrRecall } from "../../storage/kept";
import { Numbering, SharingEntry } from "../engine";
import { FieldGroups, type Entries, type Recorder } from "../record";
import { ENGINE } from "./findings";

interface Props {
  recorder: Recorder;
  plan: Plan;
  onRenumber: (order: readonly number[], alongside: Entries) => void;
}

/** What the engine is: everything that was said when it was added can be corrected here. */
export function EngineEntry({ recorder, plan, onRenumber }: Props) {
  return (
    <div className="grid gap-4">
      <FieldGroups columns={ENGINE.map((group) => [group])} recorder={recorder} />
      <div className="grid gap-x-6 gap-y-4 xl:grid-cols-2">
        <div className="grid content-start gap-4">
          <Layout recorder={recorder} />
          <FiringOrder recorder={recorder} />
          <Numbering recorder={recorder} plan={plan} onRenumber={onRenumber} />
        </div>
        <div className="grid content-start gap-4">
          <SharingEntry recorder={recorder} plan={plan} />
        </div>
      </div>
    </div>
  );
}

/** Another layout is another preset: cylinders, banks and firing order go together. */
function Layout({ recorder }: { recorder: Recorder }) {
  const { engine } = recorder.document;
  const [wanted, setWanted] = useState("");
  const presets = useQuery({
    queryKey: ["engine-presets"],
    queryFn: () => askOrRecall("engine-presets", () => take(api.GET("/api/engine-presets"))),
    staleTime: Infinity,
  });
  const preset = presets.data?.find((one) => one.id === wanted);
  const fewer = preset && (preset.engine as { cylinders?: number }).cylinders !== engine.cylinders;
  const take_over = () => {
    if (!preset) return;
    const { layout, cylinders, banks, firing_order } = preset.engine as Partial<typeof engine>;
    // In this order every step of the way is an engine that can be.
    recorder.onRecord([
      ["/engine/banks", undefined],
      ["/engine/feeds", undefined],
      ["/engine/firing_order", undefined],
      ["/engine/layout", layout],
      ["/engine/cylinders", cylinders],
      ...(banks ? [["/engine/banks", banks] as const] : []),
      ["/engine/firing_order", firing_order],
    ]);
    setWanted("");
  };
  return (
    <section aria-label={t("Layout")} className="grid gap-2">
      <h3 className="border-b border-line font-bold">
        {t("Layout: {{layout}}, {{cylinders}}  {{part}}", { layout: engine.layout, cylinders: engine.cylinders, part: engine.cylinders === 1 ? t("cylinder") : t("cylinders") })}
      </h3>
      <div className="grid grid-cols-[1fr_auto] items-end gap-2">
        <SelectField
          label={t("It is really")}
          value={wanted}
          empty={t("as it stands")}
          disabled={recorder.disabled}
          options={(presets.data ?? []).map((one) => ({ value: one.id, label: one.label }))}
          onChange={setWanted}
        />
        <Button disabled={recorder.disabled || !preset} onClick={take_over}>
          {t("Change it")}
        </Button>
      </div>
      {fewer && <p className="text-sm text-ochre">{t("Another number of cylinders: what was recorded of one that goes is refused, and stays until it is taken out.")}</p>}
    </section>
  );
}

/** The firing order, kept once it names every cylinder: never half typed. */
function FiringOrder({ recorder }: { recorder: Recorder }) {
  const { document, onRecord, disabled, problem } = recorder;
  const { cylinders, firing_order = [] } = document.engine;
  const read = (text: string) => text.split(/[^\d]+/).filter(Boolean).map(Number);
  const check = (text: string) => {
    const numbers = read(text);
    const every = [...numbers].sort((a, b) => a - b).every((number, index) => number === index + 1);
    return numbers.length === 0 || (every && numbers.length === cylinders) ? undefined : t("Every number from 1 to {{cylinders}}, once.", { cylinders });
  };
  return (
    <LineEntry
      label={t("Firing order")}
      name="/engine/firing_order"
      hint={t("Makers differ: check it against the engine.")}
      value={firing_order.join(" ")}
      check={check}
      onCommit={(text) => onRecord([["/engine/firing_order", text ? read(text) : undefined]])}
      disabled={disabled}
      error={problem("/engine/firing_order")}
    />
  );
}
