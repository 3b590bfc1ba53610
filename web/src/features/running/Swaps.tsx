import { t } from "../../language";
import { useState } from "react";
import type { Document } from "../../api/client";
import { Button } from "../../primitives/Button";
import { Choice } from "../../primitives/Choice";
import { SelectField } from "../../primitives/Field";
import { ListLine, type Recorder } from "../record";
import { SWAP_PARTS, SWAP_RESULTS } from "./findings";

type Swap = NonNullable<NonNullable<Document["tests"]>["swap"]>[number];

const nameOf = ({ part, from, to }: Swap) => t("{{part}} of {{from}} put on {{to}}: the fault", { part, from, to });

/** Parts exchanged between two cylinders, and what became of the fault. */
export function Swaps({ recorder }: { recorder: Recorder }) {
  const { document, cylinder, onRecord, disabled } = recorder;
  const swaps = document.tests?.swap ?? [];
  const others = Array.from({ length: document.engine.cylinders }, (_, index) => index + 1)
    .filter((number) => number !== cylinder)
    .map((number) => ({ value: String(number), label: String(number) }));
  const [part, setPart] = useState<string>("coil");
  const [to, setTo] = useState("");
  const add = () => {
    const base = `/tests/swap/swap-${Date.now().toString(36)}`;
    onRecord([
      [`${base}/part`, part],
      [`${base}/from`, cylinder],
      [`${base}/to`, Number(to)],
    ]);
    setTo("");
  };
  return (
    <section aria-label={t("Swapped parts")} className="grid gap-2.5">
      <h3 className="border-b border-line font-bold">{t("Swap a part")}</h3>
      <p className="caption">{t("What follows the part is the part; what stays is the cylinder; what vanishes was a contact.")}</p>
      <ul className="grid gap-3">
        {swaps.map((swap) => (
          <li key={swap.id}>
            <ListLine recorder={recorder} item={`/tests/swap/${swap.id}`} name={nameOf(swap)}>
              <Choice
                label={nameOf(swap)}
                options={SWAP_RESULTS}
                value={swap.result}
                onChange={(value) => onRecord([[`/tests/swap/${swap.id}/result`, value]])}
                disabled={disabled}
              />
            </ListLine>
          </li>
        ))}
      </ul>
      {others.length > 0 && (
        <div className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
          <SelectField disabled={disabled} label={t("From cylinder {{cylinder}}", { cylinder })} value={part} options={SWAP_PARTS} onChange={setPart} />
          <SelectField disabled={disabled} label={t("Onto cylinder")} value={to} empty={t("choose")} options={others} onChange={setTo} />
          <Button disabled={disabled || to === ""} onClick={add}>
            {t("Swapped")}
          </Button>
        </div>
      )}
    </section>
  );
}
