import { t } from "../language";
import type { ReactNode } from "react";
import { Button } from "./Button";
import { useModal } from "./useModal";

interface Props {
  label: string;
  onClose: () => void;
  children: ReactNode;
}

/** What is pulled up from the bottom of a phone; the browser's own dialog keeps the keyboard inside it. */
export function BottomSheet({ label, onClose, children }: Props) {
  const dialog = useModal();
  return (
    <dialog
      ref={dialog}
      aria-label={label}
      onCancel={onClose}
      className="m-0 mt-auto max-h-[88vh] w-full max-w-none overflow-y-auto rounded-t-xl border-t-2 border-teal bg-paper p-3 pb-[max(0.75rem,env(safe-area-inset-bottom))] text-ink backdrop:bg-black/50"
    >
      <div className="grid gap-3">
        {children}
        <Button weight="main" onClick={onClose}>
          {t("Back to the engine")}
        </Button>
      </div>
    </dialog>
  );
}
