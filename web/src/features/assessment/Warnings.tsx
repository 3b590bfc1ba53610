import { t } from "../../language";
import type { Assessment } from "../../api/client";

/** What a person should look at before believing the rest. */
export function Warnings({ warnings }: { warnings: Assessment["warnings"] }) {
  if (warnings.length === 0) return null;
  return (
    <section className="rounded-md border-l-4 border-ochre bg-sheet p-3" aria-label={t("Warnings")}>
      <ul className="grid gap-1 text-sm">
        {warnings.map((warning) => (
          <li key={`${warning.code} ${warning.path} ${warning.text}`}>{warning.text}</li>
        ))}
      </ul>
    </section>
  );
}
