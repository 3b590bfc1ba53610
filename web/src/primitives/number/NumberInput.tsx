import type { QuantityEntryState } from "./useQuantityEntry";

interface Props {
  id: string;
  entry: Pick<QuantityEntryState<string>, "text" | "type" | "commit">;
  wrong: string | undefined;
  /** What stands under it: an error, a question or a hint. */
  noted: boolean;
  disabled: boolean | undefined;
}

/** Where a number is typed: Enter finishes it and leaves, so that digits choose a cylinder again. */
export function NumberInput({ id, entry, wrong, noted, disabled }: Props) {
  return (
    <input
      id={id}
      className="entry min-w-0"
      inputMode="decimal"
      autoComplete="off"
      disabled={disabled}
      value={entry.text}
      aria-invalid={wrong ? true : undefined}
      aria-describedby={noted ? `${id}-note` : undefined}
      onChange={(event) => entry.type(event.target.value)}
      onBlur={entry.commit}
      onKeyDown={(event) => {
        if (event.key === "Enter" && entry.commit()) event.currentTarget.blur();
      }}
    />
  );
}
