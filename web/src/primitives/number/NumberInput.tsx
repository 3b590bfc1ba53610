import { useEffect, useRef } from "react";
import { leave } from "../typing";
import type { QuantityEntryState } from "./useQuantityEntry";

/** What Enter does in a number beside finishing it. */
export interface Finishing {
  /** Who wants to know the field: to put the keyboard into it. */
  onField?: ((field: HTMLInputElement | null) => void) | undefined;
  /** Called when Enter has finished it; without, the field is left. */
  onDone?: (() => void) | undefined;
  /** Whether the keyboard stays in it, for the next one's number. */
  stays?: boolean | undefined;
}

interface Props extends Finishing {
  id: string;
  /** What is typed into: another name is another number. */
  name: string;
  entry: Pick<QuantityEntryState<string>, "text" | "type" | "commit">;
  wrong: string | undefined;
  /** What stands under it: an error, a question or a hint. */
  noted: boolean;
  disabled: boolean | undefined;
}

/** Where a number is typed: Enter finishes it and leaves, so that digits choose a cylinder again. */
export function NumberInput({ id, name, entry, wrong, noted, disabled, onField, onDone, stays = false }: Props) {
  const own = useRef<HTMLInputElement | null>(null);
  useEffect(() => {
    // The next one's number is typed over what stands there.
    if (stays && own.current === document.activeElement) own.current?.select();
  }, [name, stays]);
  return (
    <input
      id={id}
      ref={(field) => {
        own.current = field;
        onField?.(field);
      }}
      className="entry min-w-0"
      inputMode="decimal"
      enterKeyHint={onDone ? "next" : "done"}
      autoComplete="off"
      disabled={disabled}
      value={entry.text}
      aria-invalid={wrong ? true : undefined}
      aria-describedby={noted ? `${id}-note` : undefined}
      onChange={(event) => entry.type(event.target.value)}
      onBlur={entry.commit}
      onKeyDown={(event) => {
        if (event.key === "Escape") leave(event.currentTarget);
        if (event.key !== "Enter" || !entry.commit()) return;
        event.preventDefault();
        if (!stays) leave(event.currentTarget);
        onDone?.();
      }}
    />
  );
}
