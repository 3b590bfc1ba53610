import { t } from "../language";
import { ToggleGroup } from "radix-ui";
import { useId, type ReactNode } from "react";
import { ALONE } from "./alone";
import { TOGGLE, type Option } from "./Choice";

interface Props {
  label: string;
  options: readonly Option<string>[];
  value: readonly string[] | undefined;
  /** undefined takes everything back: not looked at. */
  onChange: (value: readonly string[] | undefined) => void;
  disabled?: boolean;
  note?: ReactNode;
  /** What no choice means. */
  absent?: string;
}

/** Any number of a few words; "clean" or "sound" excludes the others, as it does at the bench. */
export function Tags({ label, options, value, onChange, disabled, note, absent = t("not looked at") }: Props) {
  const id = useId();
  const change = (next: string[]) => {
    const added = next.find((word) => !value?.includes(word));
    const kept = added === undefined ? next : ALONE.has(added) ? [added] : next.filter((word) => !ALONE.has(word));
    onChange(kept.length === 0 ? undefined : kept);
  };
  return (
    <div>
      <div id={id} className="caption mb-1 flex justify-between gap-2">
        <span>{label}</span>
        <span className="italic">{value === undefined ? absent : t("any that apply")}</span>
      </div>
      <ToggleGroup.Root
        type="multiple"
        aria-labelledby={id}
        disabled={disabled ?? false}
        value={[...(value ?? [])]}
        onValueChange={change}
        className="flex flex-wrap gap-1"
      >
        {options.map((option) => (
          <ToggleGroup.Item key={option.value} value={option.value} className={TOGGLE}>
            {option.label}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
      {note}
    </div>
  );
}
