import { useEffect, useRef } from "react";
import { isTyping } from "../../primitives/typing";

const TWO_DIGITS_WITHIN_MS = 600;

/** Digits choose a cylinder (two in quick succession from ten up), Ctrl-Z undoes. */
export function useCylinderKeys(
  cylinders: number,
  onChoose: (cylinder: number) => void,
  onUndo: () => void,
): void {
  const last = useRef({ digit: 0, at: 0 });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z" && !isTyping(event.target)) {
        event.preventDefault();
        onUndo();
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      if (!/^\d$/.test(event.key)) return;
      const digit = Number(event.key);
      const quick = event.timeStamp - last.current.at < TWO_DIGITS_WITHIN_MS;
      const both = last.current.digit * 10 + digit;
      const chosen = quick && last.current.digit > 0 && both <= cylinders ? both : digit;
      last.current = { digit, at: event.timeStamp };
      if (chosen >= 1 && chosen <= cylinders) onChoose(chosen);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [cylinders, onChoose, onUndo]);
}
