import { t } from "../../language";
import { useState } from "react";
import { Button } from "../../primitives/Button";
import { TextField } from "../../primitives/Field";
import { FieldEntry, type Recorder } from "../record";
import { forAll, LOOKS, NOTHING_WRONG, refusal, SHAPES, type Fitting } from "./fields";
import { PlugProfile } from "./PlugProfile";

interface Props {
  recorder: Recorder;
  fitting: Fitting | undefined;
}

/** One new plug against the old one, before it goes anywhere near the engine. */
export function Arrival({ recorder, fitting }: Props) {
  const { document, cylinder, onRecord, disabled } = recorder;
  const refit = document.refit;
  const plug = refit?.cylinders?.find((one) => one.cylinder === cylinder)?.plug ?? {};
  const old = document.cylinders?.find((one) => one.number === cylinder)?.plug ?? {};
  const all = forAll(plug, document);
  const nothingWrong = () =>
    onRecord(NOTHING_WRONG.map(([field, value]) => [`/refit/cylinders/${cylinder}/plug/${field}`, value]));
  const refused = refit?.refused ?? [];
  return (
    <div className="grid gap-4">
      <div className="flex flex-wrap gap-2">
        <Button weight="main" disabled={disabled} onClick={nothingWrong}>
          {t("Looked at, nothing wrong")}
        </Button>
        <Button disabled={disabled || all.length === 0} onClick={() => onRecord(all)}>
          {t("A box alike: each looked at, nothing wrong")}
        </Button>
      </div>
      <Remarks fitting={fitting} />
      <div className="grid gap-x-6 gap-y-3 md:grid-cols-[200px_1fr]">
        <PlugProfile old={old} fresh={plug} specified={document.engine.specification ?? {}} />
        <div className="grid content-start gap-2">
          {SHAPES.map(([fresh, before]) => (
            <div key={fresh.path} className="grid grid-cols-2 gap-2">
              <FieldEntry field={fresh} recorder={recorder} />
              <FieldEntry field={before} recorder={recorder} />
            </div>
          ))}
        </div>
      </div>
      <div className="grid gap-x-6 gap-y-2.5 md:grid-cols-2">
        {LOOKS.map((field) => (
          <FieldEntry key={field.path} field={field} recorder={recorder} />
        ))}
      </div>
      <Refuse
        key={`${cylinder} ${refused.length}`}
        suggested={fitting?.remarks.filter((one) => one.refuse).map((one) => one.text).join("; ") ?? ""}
        disabled={disabled || Object.keys(plug).length === 0}
        onRefuse={(reason) => onRecord(refusal(cylinder, plug, reason))}
      />
      {refused.length > 0 && (
        <section aria-label={t("Refused plugs")}>
          <h3 className="caption">{t("Sent back")}</h3>
          <ul className="text-sm">
            {refused.map((one) => (
              <li key={one.id} className="border-b border-line py-1">
                <b>{t("for cylinder")}{" "}{one.cylinder}</b> {one.plug?.part}: {one.reason}
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

function Remarks({ fitting }: { fitting: Fitting | undefined }) {
  if (!fitting) return null;
  return (
    <ul className="grid gap-1 text-sm" aria-label={t("About the new plug of cylinder {{cylinder}}", { cylinder: fitting.cylinder })}>
      {fitting.remarks.map((one) => (
        <li key={one.code} className={`border-l-4 pl-2 ${one.refuse ? "border-rust font-medium" : "border-ochre"}`}>
          {one.refuse && t("Do not fit: ")}
          {one.text}
        </li>
      ))}
      {fitting.unseen.length > 0 && <li className="caption italic">{t("not looked at: {{unseen}}", { unseen: fitting.unseen.join(", ") })}</li>}
    </ul>
  );
}

interface RefuseProps {
  suggested: string;
  disabled: boolean;
  onRefuse: (reason: string) => void;
}

function Refuse({ suggested, disabled, onRefuse }: RefuseProps) {
  const [typed, setTyped] = useState<string | undefined>();
  const reason = (typed ?? suggested).trim();
  return (
    <div className="grid grid-cols-[1fr_auto] items-end gap-2">
      <TextField
        label={t("Refuse it because")}
        value={typed ?? suggested}
        disabled={disabled}
        onChange={(event) => setTyped(event.target.value)}
      />
      <Button disabled={disabled || reason === ""} onClick={() => onRefuse(reason)}>
        {t("Refuse this plug")}
      </Button>
    </div>
  );
}
