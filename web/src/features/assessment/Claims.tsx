import { t } from "../../language";
import type { Assessment } from "../../api/client";
import { GradeMark } from "./GradeMark";
import { percent, unbroken } from "./words";

type Claim = Assessment["engine"]["claims"][number];

const SHOWN = 5;

interface Props {
  claims: readonly Claim[];
  onChoose: (cylinder: number) => void;
}

/** What stands and what is open, in the order in which it is told: each with its grade and on which basis. */
export function Claims({ claims, onChoose }: Props) {
  const [first, more] = [claims.slice(0, SHOWN), claims.slice(SHOWN)];
  return (
    <div>
      <ol className="grid border-t border-line" aria-label={t("What stands")}>
        {first.map((claim) => (
          <ClaimRow key={claim.id} claim={claim} onChoose={onChoose} />
        ))}
      </ol>
      {more.length > 0 && (
        <details>
          <summary className="target cursor-pointer text-sm">{t("{{count}} more", { count: more.length })}</summary>
          <ol className="grid border-t border-line" aria-label={t("What stands besides")}>
            {more.map((claim) => (
              <ClaimRow key={claim.id} claim={claim} onChoose={onChoose} />
            ))}
          </ol>
        </details>
      )}
    </div>
  );
}

function ClaimRow({ claim, onChoose }: { claim: Claim; onChoose: (cylinder: number) => void }) {
  const { cylinders, scope } = claim;
  const one = cylinders[0];
  const ofSome = scope !== "engine" && scope !== "somewhere" && one !== undefined;
  return (
    <li className="grid grid-cols-[1.75rem_1fr_auto] items-start gap-2 border-b border-line py-1">
      <GradeMark grade={claim.grade} className="mt-0.5 size-7" />
      {ofSome ? (
        <button type="button" className="target text-left text-sm hover:underline" onClick={() => onChoose(one)}>
          {unbroken(claim.text)}
        </button>
      ) : (
        <span className="text-sm">{unbroken(claim.text)}</span>
      )}
      <span className="caption max-w-24 text-right">
        {basis(claim)}
        {claim.lifts && <span className="block text-ochre">{t("lifts: {{lifts}}", { lifts: claim.lifts })}</span>}
      </span>
    </li>
  );
}

/** On what a claim rests: seen, by a rule, or how likely it is beside how often it occurs anyway. */
function basis({ basis: rests, probability, base, stands }: Claim) {
  if (rests === "seen") return t("seen");
  if (rests === "rule") return t("by the rule");
  return stands ? t("weighed") : t("open; anyway {{base}}", { base: percent(base || probability) });
}
