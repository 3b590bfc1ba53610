import { useEffect } from "react";
import { isAtHand, isTyping } from "../../primitives/typing";
import { READINGS, type Reading } from "./findings";

interface Actions {
  onRead: (reading: Reading) => void;
  onSame: (() => void) | undefined;
  onGap: () => void;
  /** Leave what a reading would change as it stands. */
  onLeave: () => void;
  /** One cylinder on, or back. */
  onStep: (step: 1 | -1) => void;
  disabled: boolean;
}

/** One key a reading, `=` the same as before, `g` to the gap, arrows to the next plug. */
export function useReadingKeys({ onRead, onSame, onGap, onLeave, onStep, disabled }: Actions): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target instanceof HTMLElement ? event.target : undefined;
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(target ?? null) || !isAtHand(target ?? null)) return;
      const inWords = target?.closest("[role=radiogroup], [role=group], [role=tablist], [role=toolbar]");
      if ((event.key === "ArrowRight" || event.key === "ArrowLeft") && !inWords) {
        event.preventDefault();
        onStep(event.key === "ArrowRight" ? 1 : -1);
        return;
      }
      if (disabled) return;
      const reading = READINGS.find((one) => one.key === event.key);
      if (reading) onRead(reading);
      else if (event.key === "=") onSame?.();
      else if (event.key === "g") onGap();
      else if (event.key === "Escape") onLeave();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [onRead, onSame, onGap, onLeave, onStep, disabled]);
}
