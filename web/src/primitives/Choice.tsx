import { t } from "../language";
import { ToggleGroup } from "radix-ui";
import { useId, type ReactNode } from "react";

export interface Option<V extends string> {
  value: V;
  label: string;
  swatch?: string;
}

/** How a word looks that can be chosen. */
export const TOGGLE =
  "target flex min-h-9 items-center gap-1.5 rounded-md border border-line bg-sheet px-2 text-sm hover:border-soft data-[state=on]:border-teal data-[state=on]:bg-teal data-[state=on]:font-medium data-[state=on]:text-on-teal disabled:opacity-60";

interface Props<V extends string> {
  label: string;
  options: readonly Option<V>[];
  value: V | undefined;
  /** undefined takes the choice back: not looked at. */
  onChange: (value: V | undefined) => void;
  disabled?: boolean;
  note?: ReactNode;
  /** What no choice means. */
  absent?: string;
  /** The words stand beside the label, as in a list to tick off. */
  beside?: boolean;
}

/** One of a few words, each a target for a gloved thumb; tapping it again takes it back. */
export function Choice<V extends string>({ label, options, value, onChange, disabled, note, absent = t("not looked at"), beside = false }: Props<V>) {
  const id = useId();
  return (
    <div className={beside ? "grid grid-cols-[1fr_auto] items-center gap-x-2" : ""}>
      <div className={beside ? "text-sm" : "caption mb-1 flex justify-between gap-2"}>
        <span id={id}>
          {label}
          {value === undefined && <span className="sr-only"> {absent}</span>}
        </span>
        {beside && note}
        {!beside && value === undefined && (
          <span aria-hidden="true" className="italic">
            {absent}
          </span>
        )}
      </div>
      <ToggleGroup.Root
        type="single"
        aria-labelledby={id}
        disabled={disabled ?? false}
        value={value ?? ""}
        onValueChange={(next) => onChange(next === "" ? undefined : (next as V))}
        className="flex flex-wrap gap-1"
      >
        {options.map((option) => (
          <ToggleGroup.Item
            key={option.value}
            value={option.value}
            className={TOGGLE}
          >
            {option.swatch && (
              <span
                aria-hidden="true"
                className="size-3.5 rounded-full border border-soft"
                style={{ background: option.swatch }}
              />
            )}
            {option.label}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
      {!beside && note}
    </div>
  );
}
