import { t } from "../../language";
import { Accordion } from "radix-ui";
import type { Assessment, CylinderAssessment } from "../../api/client";
import { FaultReasons } from "./FaultReasons";
import { GRADE_WORDS, GradeMark } from "./GradeMark";
import { useWords } from "./words";

const SHOWN = 5;

interface Props {
  cylinder: CylinderAssessment;
  claims: Assessment["engine"]["claims"];
  /** Whether the reasons are still those from before the last entry. */
  settling: boolean;
}

/** Why a cylinder is graded as it is: its likeliest faults, each opening to for and against. */
export function Reasons({ cylinder, claims, settling }: Props) {
  const words = useWords();
  const named = cylinder.faults.slice(0, SHOWN);
  const own = claims.filter((claim) => claim.cylinders.includes(cylinder.number)).flatMap((claim) => claim.faults);
  const first = named.find((fault) => fault.because.length > 0);
  return (
    <section className="sheet p-3" aria-label={t("Why, cylinder {{number}}", { number: cylinder.number })}>
      <header className="mb-2 flex items-center gap-2">
        <GradeMark grade={cylinder.grade} />
        <h2 className="font-bold">{t("Cylinder {{number}}", { number: cylinder.number })}</h2>
        <span className="caption">{GRADE_WORDS[cylinder.grade]}</span>
        <span className="caption ml-auto">{t("plug: {{plug_action}}", { plug_action: cylinder.plug_action.replace("-", " ") })}</span>
      </header>
      {cylinder.plug_reason && cylinder.plug_action !== "not-seen" && (
        <p className="caption mb-1">{t("Plug: {{plug_reason}}.", { plug_reason: cylinder.plug_reason })}</p>
      )}
      {cylinder.rivals.length > 1 && (
        <p className="mb-1 text-sm">
          <b>{t("Cannot yet be told apart:")}</b> {cylinder.rivals.join("; ")}.
        </p>
      )}
      {cylinder.odd.map((odd) => (
        <p key={odd.statistic} className="mb-1 text-sm text-ochre">
          {t("Odd one out: {{text}}", { text: odd.text })}
        </p>
      ))}
      <Accordion.Root
        key={`${cylinder.number} ${first?.fault}`}
        type="multiple"
        defaultValue={first ? [first.fault] : []}
        className="grid gap-1"
      >
        {named.map((fault) => (
          <FaultReasons
            key={fault.fault}
            id={fault.fault}
            label={words.fault(fault.fault)}
            probability={fault.probability}
            prior={words.prior(fault.fault)}
            because={fault.because}
            claimed={own.includes(fault.fault)}
          />
        ))}
      </Accordion.Root>
      {settling && <p className="caption">{t("The reasons are being weighed anew.")}</p>}
      {cylinder.unseen.length > 0 && (
        <p className="caption mt-2 border-t border-line pt-2">{t("Missing: {{unseen}}.", { unseen: cylinder.unseen.join("; ") })}</p>
      )}
    </section>
  );
}
