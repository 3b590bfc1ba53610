import { t } from "../../language";
import { useState } from "react";
import type { Document } from "../../api/client";
import { Button } from "../../primitives/Button";
import { Choice } from "../../primitives/Choice";
import { SelectField } from "../../primitives/Field";
import { Tags } from "../../primitives/Tags";
import { worked } from "../bench";
import { FieldEntry, options, type Recorder } from "../record";

type Repair = NonNullable<NonNullable<Document["refit"]>["repairs"]>[number];

const PARTS = options<NonNullable<Repair["part"]>>(
  "plug", "coil", "lead", "boot", "well-seal", "injector", "rings", "intake-valve", "exhaust-valve", "guides", "head-gasket",
  "piston", "points", "condenser", "cap", "rotor", "timing", "mixture", "premix", "fuel-supply", "other",
);
const ACTIONS = options<NonNullable<Repair["action"]>>("renewed", "set", "cleaned", "repaired");

/** What was renewed, set or mended beside the plugs: it is what the engine is judged by as it is left. */
export function Repairs({ recorder }: { recorder: Recorder }) {
  const { document, onRecord, disabled } = recorder;
  const [part, setPart] = useState<string>("coil");
  const repairs = document.refit?.repairs ?? [];
  const add = () => {
    const base = `/refit/repairs/repair-${Date.now().toString(36)}`;
    onRecord([
      [`${base}/part`, part],
      [`${base}/action`, "renewed"],
      [`${base}/cylinders`, [recorder.cylinder]],
    ]);
  };
  return (
    <section aria-label={t("Renewed and set")} className="grid gap-3">
      <h3 className="border-b border-line font-bold">{t("Renewed, set, cleaned or repaired")}</h3>
      <p className="caption">{t("Plugs that were fitted count as renewed; everything else is said here. No cylinder: what all of them share.")}</p>
      <div className="grid max-w-md grid-cols-[1fr_auto] items-end gap-2">
        <SelectField label={t("Part, on cylinder {{cylinder}}", { cylinder: recorder.cylinder })} value={part} options={PARTS} disabled={disabled} onChange={setPart} />
        <Button disabled={disabled} onClick={add}>
          {t("Note it")}
        </Button>
      </div>
      <ul className="grid gap-4">
        {repairs.map((one) => (
          <RepairRow key={one.id} repair={one} recorder={recorder} />
        ))}
      </ul>
    </section>
  );
}

function RepairRow({ repair, recorder }: { repair: Repair; recorder: Recorder }) {
  const { document, onRecord, disabled } = recorder;
  const base = `/refit/repairs/${repair.id}`;
  return (
    <li className="grid gap-2 border-b border-line pb-2">
      <div className="flex items-center justify-between gap-2">
        <b>{PARTS.find((one) => one.value === repair.part)?.label ?? t("part")}</b>
        <Button className="text-sm" disabled={disabled} onClick={() => onRecord([[base, undefined]])}>
          {t("Take out")}
        </Button>
      </div>
      <div className="grid gap-2 md:grid-cols-2">
        <Choice label={t("What was done")} options={ACTIONS} value={repair.action} disabled={disabled} onChange={(action) => action && onRecord([[`${base}/action`, action]])} />
        <Tags
          label={t("On")}
          options={worked(document).map((number) => ({ value: String(number), label: String(number) }))}
          value={repair.cylinders?.map(String)}
          onChange={(chosen) => onRecord([[`${base}/cylinders`, chosen?.map(Number)]])}
          disabled={disabled}
          absent={t("all of them")}
        />
        <FieldEntry field={{ kind: "text", path: `${base}/part_number`, label: "Part number" }} recorder={recorder} />
        <FieldEntry field={{ kind: "text", path: `${base}/note`, label: "Note" }} recorder={recorder} />
      </div>
    </li>
  );
}
