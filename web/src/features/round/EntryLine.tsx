import { t } from "../../language";
import { Button } from "../../primitives/Button";
import type { OnlyAdding } from "./useOnlyAdding";

interface Props {
  adding: OnlyAdding;
  /** Take the last entry back; undefined where there is none. */
  onUndo: (() => void) | undefined;
}

/** What the last key recorded, or what it would change: said to the eye and to a screen reader. */
export function EntryLine({ adding: { told, confirm, leave }, onUndo }: Props) {
  return (
    <div
      className={`flex min-h-9 flex-wrap items-center gap-x-3 gap-y-1 text-sm ${told?.asking ? "border-l-4 border-ochre pl-2" : "text-soft"}`}
    >
      <span role="status" aria-label={t("Last reading")} className="min-w-0">
        {told?.text ?? t("What a key would change is asked first; what is as it should be moves on by itself.")}
      </span>
      {told?.asking ? (
        <>
          <Button weight="main" onClick={confirm}>
            {t("Change it (the same key)")}
          </Button>
          <Button onClick={leave}>{t("Leave it (Esc)")}</Button>
        </>
      ) : (
        told &&
        onUndo && (
          <button type="button" className="target min-h-8 text-teal underline" onClick={onUndo}>
            {t("Undo")}
          </button>
        )
      )}
    </div>
  );
}
