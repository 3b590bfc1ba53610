import { t } from "../../language";
import { Link } from "react-router";
import type { Assessment } from "../../api/client";
import { FieldEntry, type Recorder } from "../record";
import { PREMIX } from "./fields";

interface Props {
  recorder: Recorder;
  assessment: Assessment;
}

/** A two-stroke's mix, and what its plugs say about it. */
export function Premix({ recorder, assessment }: Props) {
  const chance = (fault: string) => assessment.engine.faults.find((one) => one.fault === fault)?.probability ?? 0;
  const rich = chance("premix-oil-rich");
  const lean = chance("premix-oil-lean");
  const percent = (value: number) => `${Math.round(100 * value)} %`;
  return (
    <div className="grid gap-x-6 gap-y-3 xl:grid-cols-2">
      <section aria-label={t("The mix")} className="grid content-start gap-2">
        {PREMIX.map((field) => (
          <FieldEntry key={field.path} field={field} recorder={recorder} />
        ))}
        <p className="flex gap-3 text-sm">
          <Link className="text-teal underline" to="/calculators/premix">
            {t("Oil for fresh fuel")}
          </Link>
          <Link className="text-teal underline" to="/calculators/top-up">
            {t("Topping up another mix")}
          </Link>
        </p>
      </section>
      <section aria-label={t("What the plugs say")} className="text-sm">
        <h3 className="border-b border-line font-bold">{t("What the plugs say")}</h3>
        <p>
          {t("Too much oil in the fuel:")}{" "}<b>{percent(rich)}</b>{t(". Too little:")}{" "}<b>{percent(lean)}</b>.
        </p>
        <p className="caption mt-1">
          {t("Too little oil is the dangerous side: glazed, blistered, with specks of metal; look at the piston through the exhaust port. Unburnt mix leaves oil on a sound plug too. First look after about ten running hours.")}
        </p>
      </section>
    </div>
  );
}
