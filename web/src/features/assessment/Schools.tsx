import { t } from "../../language";
import type { Assessment } from "../../api/client";

const SAID = { pass: "passes", fail: "fails", "cannot-say": t("cannot say") } as const;

interface Props {
  rules: Assessment["compression"]["rules"];
  label?: string;
}

/** What each acceptance school says of the readings; the house's own decides. */
export function Schools({ rules, label = t("Acceptance schools") }: Props) {
  return (
    <section aria-label={label}>
      <h3 className="caption mb-1">{t("What the schools say")}</h3>
      <table className="w-full text-sm">
        <tbody>
          {rules.map((rule) => (
            <tr key={rule.rule} className="border-t border-line align-top">
              <th scope="row" className="py-1 pr-2 text-left font-normal">
                {rule.label}
                {rule.decides && <b className="caption ml-1">{t("decides here")}</b>}
              </th>
              <td className={`py-1 pr-2 whitespace-nowrap ${rule.verdict === "fail" ? "font-bold text-rust" : ""}`}>
                {SAID[rule.verdict]}
                {rule.failing.length > 0 && `: ${rule.failing.join(", ")}`}
              </td>
              <td className="caption py-1">{rule.detail}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
