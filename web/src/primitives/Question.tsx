import { useId, type ReactNode } from "react";
import { useModal } from "./useModal";

interface Props {
  title: string;
  onClose: () => void;
  children: ReactNode;
}

/** A question that has to be answered first; the browser's own dialog keeps the keyboard inside it. */
export function Question({ title, onClose, children }: Props) {
  const id = useId();
  const dialog = useModal();
  return (
    <dialog
      ref={dialog}
      role="alertdialog"
      aria-labelledby={id}
      onCancel={onClose}
      className="sheet m-auto w-[min(32rem,calc(100vw-2rem))] p-5 text-ink backdrop:bg-black/50"
    >
      <div className="grid gap-3">
        <h2 id={id} className="text-lg font-bold">
          {title}
        </h2>
        {children}
      </div>
    </dialog>
  );
}
