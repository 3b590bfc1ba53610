import { t } from "../../language";
import { useState } from "react";
import { Button } from "../../primitives/Button";
import { SelectField, TextField } from "../../primitives/Field";
import { usable, type Quantity } from "../../primitives/number";
import { measured, stacked } from "../calculators";
import { LENGTH_UNITS, type LengthUnit } from "../record";
import { useStacks, type Stack } from "./useStacks";
import { useTools } from "./useTools";

const SHOWN = 5;

interface Props {
  target: Quantity | undefined;
  /** Take a stack as what the gap was set with; `taking` says of what. */
  onTake?: ((stack: Stack) => void) | undefined;
  taking: string;
}

/** Which of the blades at hand come nearest to the gap, alone or together. */
export function BladeFinder({ target, onTake, taking }: Props) {
  const { tools, keep, trouble } = useTools();
  const own = tools?.own.blades as readonly Quantity[] | undefined;
  const { stacks, error } = useStacks(target, own);
  const off = (stack: Stack) =>
    stack.error.value === 0 ? "exact" : `${stack.error.value > 0 ? "+" : "−"}${Math.abs(stack.error.value)} ${stack.error.unit}`;
  return (
    <section aria-label={t("Blade finder")} className="grid content-start gap-2">
      <h3 className="border-b border-line font-bold">
        {t("Blades {{part}}", { part: target ? t("for {{value}} {{unit}}", { value: target.value, unit: target.unit }) : t("(no gap is specified)") })}
      </h3>
      {(error ?? trouble) && (
        <p role="alert" className="text-sm text-rust">
          {(error ?? trouble)?.message}
        </p>
      )}
      {stacks && (
        <ol className="grid gap-1">
          {stacks.slice(0, SHOWN).map((stack, index) => (
            <li key={stacked(stack.blades)} className="flex items-center gap-2">
              <span className={index === 0 ? "font-bold" : ""}>
                {stacked(stack.blades)} = {measured(stack.total)}
              </span>
              <span className="caption">{off(stack)}</span>
              {onTake && (
                <Button className="ml-auto" onClick={() => onTake(stack)}>
                  {taking}
                </Button>
              )}
            </li>
          ))}
        </ol>
      )}
      {tools && <OwnBlades own={own ?? []} sets={tools.blade_sets} onKeep={(blades) => keep({ ...tools.own, blades: [...blades] as never })} />}
    </section>
  );
}

interface OwnBladesProps {
  own: readonly Quantity[];
  sets: readonly { id: string; title: string; unit: string; blades: readonly number[] }[];
  onKeep: (blades: readonly Quantity[]) => void;
}

/** The set that is used, typed once or taken from a common one. */
function OwnBlades({ own, sets, onKeep }: OwnBladesProps) {
  const unit = (own[0]?.unit ?? "mm") as LengthUnit;
  const [chosen, setChosen] = useState<LengthUnit | undefined>();
  const [typed, setTyped] = useState<string | undefined>();
  const shown = typed ?? own.map((one) => one.value).join(" ");
  const read = shown.trim().split(/\s+/).filter(Boolean).map(usable);
  const wrong = read.some((one) => one === undefined || one <= 0);
  const take = (id: string) => {
    const set = sets.find((one) => one.id === id);
    if (!set) return;
    setTyped(undefined);
    setChosen(set.unit as LengthUnit);
    onKeep(set.blades.map((value) => ({ value, unit: set.unit })));
  };
  const keep = () => {
    onKeep(read.map((value) => ({ value: value ?? 0, unit: chosen ?? unit })));
    setTyped(undefined);
  };
  return (
    <details className="grid gap-2" open={own.length === 0}>
      <summary className="target cursor-pointer text-teal underline">
        {own.length ? t("My {{count}} blades", { count: own.length }) : t("Which blades do you have?")}
      </summary>
      <div className="mt-2 grid gap-2">
        <SelectField label={t("A common set")} value="" empty={t("take one over")} options={sets.map((one) => ({ value: one.id, label: one.title }))} onChange={take} />
        <div className="grid grid-cols-[1fr_auto_auto] items-end gap-2">
          <TextField
            label={t("Or their thicknesses, with spaces between")}
            value={shown}
            error={wrong ? t("Numbers above zero, with spaces between.") : undefined}
            onChange={(event) => setTyped(event.target.value)}
          />
          <SelectField label={t("Unit")} value={chosen ?? unit} options={LENGTH_UNITS} onChange={(next) => setChosen(next || unit)} />
          <Button disabled={wrong || read.length === 0 || (typed === undefined && (chosen ?? unit) === unit)} onClick={keep}>
            {t("Keep")}
          </Button>
        </div>
      </div>
    </details>
  );
}
