import { t, wordSaid } from "../../language";
import { SelectField, TextField } from "../../primitives/Field";
import { Tick } from "../../primitives/Tick";
import { doubt } from "../../primitives/number";
import type { Key } from "./form";

interface Props {
  field: Key;
  text: string;
  error: string | undefined;
  onChange: (text: string) => void;
}

/** One key of a calculator; a quantity is typed as a number beside its unit. */
export function KeyEntry({ field, text, error, onChange }: Props) {
  const { entry, needed, label } = field;
  switch (entry.kind) {
    case "choice":
      return (
        <SelectField
          label={label}
          value={text}
          {...(needed ? {} : { empty: t("not said") })}
          options={entry.words.map((value) => ({ value, label: wordSaid(value).replace(".", "·") }))}
          onChange={onChange}
        />
      );
    case "flag":
      return (
        <Tick className="self-end" checked={text === "true"} onChange={(checked) => onChange(checked ? "true" : "")}>
          {label}
        </Tick>
      );
    case "number":
      return (
        <TextField label={label} inputMode="decimal" value={text} error={doubt(text) ?? error} onChange={(event) => onChange(event.target.value)} />
      );
    case "quantity":
    case "list": {
      const unit = entry.units.find((one) => text.endsWith(` ${one}`)) ?? entry.units[0] ?? "";
      const number = text.endsWith(` ${unit}`) ? text.slice(0, -unit.length - 1) : text;
      const set = (next: string, of: string) => onChange(next.trim() === "" ? "" : `${next} ${of}`);
      return (
        <div className="grid grid-cols-[1fr_auto] items-start gap-1">
          <TextField
            label={label}
            inputMode={entry.kind === "quantity" ? "decimal" : "text"}
            value={number}
            error={(entry.kind === "quantity" ? doubt(number) : undefined) ?? error}
            hint={entry.kind === "list" ? t("thicknesses with spaces between") : undefined}
            onChange={(event) => set(event.target.value, unit)}
          />
          <SelectField
            label={t("Unit")}
            value={unit}
            options={entry.units.map((value) => ({ value, label: value.replace(".", "·") }))}
            onChange={(next) => set(number, next)}
          />
        </div>
      );
    }
  }
}
