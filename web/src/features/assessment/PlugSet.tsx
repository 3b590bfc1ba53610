import { t } from "../../language";
import type { CylinderAssessment } from "../../api/client";

const DONE = ["keep", "clean", "regap", "replace"] as const;
const WORDS = { keep: t("Keep"), clean: t("Clean"), regap: t("Set"), replace: t("Replace") } as const;

interface Props {
  cylinders: readonly CylinderAssessment[];
  /** Whether something was put right since: these are the plugs that came out. */
  since: boolean;
}

/** What becomes of the set: how many plugs of each kind, which, and why. */
export function PlugSet({ cylinders, since }: Props) {
  const rows = DONE.map((action) => ({ action, those: cylinders.filter((one) => one.plug_action === action) }));
  const told = rows.filter(({ those }) => those.length > 0);
  if (told.length === 0) return null;
  return (
    <details className="text-sm">
      <summary className="target cursor-pointer">
        <span className="caption">{since ? t("Plugs as found") : t("Plugs")}</span>{" "}
        {told.map(({ action, those }) => `${WORDS[action].toLowerCase()} ${those.length}`).join(", ")}
      </summary>
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5 pl-3">
        {told.flatMap(({ action, those }) =>
          reasons(those).map(({ reason, numbers }) => (
            <div key={action + reason} className="contents">
              <dt>
                {WORDS[action]} {numbers.join(", ")}
              </dt>
              <dd className="text-soft">{reason}</dd>
            </div>
          )),
        )}
      </dl>
    </details>
  );
}

/** Plugs of which the same is said, together. */
function reasons(those: readonly CylinderAssessment[]) {
  const found = new Map<string, number[]>();
  for (const one of those) found.set(one.plug_reason, [...(found.get(one.plug_reason) ?? []), one.number]);
  return [...found].map(([reason, numbers]) => ({ reason, numbers }));
}
