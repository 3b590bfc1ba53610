import { t } from "../../language";
import { useState } from "react";
import type { Document } from "../../api/client";
import { Button } from "../../primitives/Button";
import { Choice } from "../../primitives/Choice";
import { SelectField } from "../../primitives/Field";
import { ListLine, options, type Recorder } from "../record";

type Piece = NonNullable<NonNullable<Document["work"]>["pieces"]>[number];

const WHAT = options<NonNullable<Piece["what"]>>("ground-electrode", "centre-electrode", "ceramic", "other");
const STATES = options<NonNullable<Piece["state"]>>("missing", "found", "burnt-away", "looked-nothing-there");

const nameOf = ({ what, cylinder }: Piece) =>
  t("{{label}} of {{cylinder}}", { label: WHAT.find(({ value }) => value === what)?.label ?? "piece", cylinder });

/** What broke off and where it went: until that is known, the engine is not turned. */
export function Pieces({ recorder }: { recorder: Recorder }) {
  const { document, cylinder, onRecord, disabled } = recorder;
  const [what, setWhat] = useState<string>("ground-electrode");
  const pieces = document.work?.pieces ?? [];
  const add = () => {
    const base = `/work/pieces/piece-${Date.now().toString(36)}`;
    onRecord([
      [`${base}/cylinder`, cylinder],
      [`${base}/what`, what],
      [`${base}/state`, "missing"],
    ]);
  };
  return (
    <section aria-label={t("Pieces broken off")} className="grid gap-2 print:hidden">
      <h3 className="border-b border-line font-bold">{t("Pieces broken off")}</h3>
      <ul className="grid gap-2">
        {pieces.map((one) => (
          <li key={one.id}>
            <ListLine recorder={recorder} item={`/work/pieces/${one.id}`} name={nameOf(one)}>
              <Choice
                label={nameOf(one)}
                options={STATES}
                value={one.state}
                onChange={(state) => state && onRecord([[`/work/pieces/${one.id}/state`, state]])}
                disabled={disabled}
              />
            </ListLine>
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-[1fr_auto] items-end gap-2">
        <SelectField label={t("Missing from the plug of {{cylinder}}", { cylinder })} value={what} options={WHAT} disabled={disabled} onChange={setWhat} />
        <Button disabled={disabled} onClick={add}>
          {t("Look for it")}
        </Button>
      </div>
    </section>
  );
}
