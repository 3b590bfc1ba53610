import { Button } from "../../primitives/Button";
import type { OnlyAdding } from "./useOnlyAdding";

/** What the last key recorded, or what it would change: said to the eye and to a screen reader. */
export function EntryLine({ adding: { told, confirm, leave } }: { adding: OnlyAdding }) {
  return (
    <div
      role="status"
      aria-label="Last reading"
      className={`flex min-h-10 flex-wrap items-center gap-2 text-sm ${told?.asking ? "border-l-4 border-ochre pl-2" : "text-soft"}`}
    >
      <span>{told?.text ?? "A key records what it says of this plug; what stands stays until you confirm."}</span>
      {told?.asking && (
        <>
          <Button weight="main" onClick={confirm}>
            Change it (the same key)
          </Button>
          <Button onClick={leave}>Leave it (Esc)</Button>
        </>
      )}
    </div>
  );
}
