import { useEffect, useRef, type RefObject } from "react";

/** The browser's own dialog, shown over everything as long as it is drawn: it keeps the keyboard inside. */
export function useModal(): RefObject<HTMLDialogElement | null> {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const shown = dialog.current;
    shown?.showModal();
    return () => shown?.close();
  }, []);
  return dialog;
}
