import { t } from "../../language";
import { money, type Words } from "../assessment";
import { saidOf, spoken } from "../record/spoken";
import type { Round } from "./CasePage";

type Act = Round["acts"][number];
/** What some minutes cost in this shop. */
export function cost(minutes: number, { rate, currency }: Pick<Round, "rate" | "currency">): string {
  return money((minutes / 60) * rate, currency);
}

type Claim = NonNullable<Round["answer"]>["claims"][number];

/** What was so, what it was worth, and how somebody who only knows the model played it. */
export function Replay({ round, words }: { round: Round; words: Words }) {
  const { score, replay, answer } = round;
  if (!score || !replay || !answer) return null;
  const work = (needs: string) => round.works.find((one) => one.needs === needs)?.label ?? needs;
  const { right, left, slips } = replay.written;
  const wrote = right + slips.length > 0;
  const said = (claims: readonly Claim[], cylinder: number) => {
    const claim = claims.find((one) => one.cylinder === cylinder);
    return claim ? `${claim.fault ? words.fault(claim.fault) : "sound"}, ${Math.round(claim.percent)}\u00a0%` : "";
  };
  return (
    <section aria-label={t("How it went")} className="grid gap-4">
      <div className="sheet grid gap-1 p-4">
        <p className="text-3xl font-bold">{t("{{points}} points", { points: score.points })}</p>
        <p>
          {t("{{found}} of {{of}} faults named rightly", { found: score.found, of: score.of })}
          {score.wrong.length > 0 && (
            <b className="text-rust">
              {t("; sound and convicted: {{wrong}}, {{for_nothing}} hours of work for nothing", { wrong: score.wrong.join(", "), for_nothing: score.for_nothing })}
            </b>
          )}
          .{score.missed_danger && <b className="text-rust">{" "}{t("It must not run, and was let run.")}</b>}
        </p>
        <p className="text-sm">
          {t("At {{rate}}  {{currency}} an hour: {{minutes}} of finding", { rate: round.rate, currency: round.currency, minutes: cost(score.minutes, round) })}
          {score.for_nothing > 0 && <b>{t(", {{cost}} of work for nothing", { cost: cost(60 * score.for_nothing, round) })}</b>}{t(". The observer: {{minutes}}.", { minutes: cost(replay.ideal_score.minutes, round) })}
        </p>
        <p className="text-sm">
          {t("It needed, at the dearest: {{needed}}.", { needed: work(replay.needs) })}{" "}
          <b className={answer.needs && answer.needs !== replay.needs ? "text-rust" : ""}>
            {answer.needs ? t("The buyer was told: {{told}}.", { told: work(answer.needs) }) : t("The buyer was told nothing.")}
          </b>{" "}
          {t("The observer would have said: {{told}}.", { told: work(replay.ideal_needs) })}
        </p>
        <p className="text-sm text-soft">
          {t("{{minutes}} minutes, {{bits}} bits learnt; off by {{brier}} (Brier, 0 is best). The observer: {{points}} points, {{minutes2}} minutes, {{bits2}} bits, off by {{brier2}}.", { minutes: score.minutes, bits: score.bits, brier: score.brier, points: replay.ideal_score.points, minutes2: replay.ideal_score.minutes, bits2: replay.ideal_score.bits, brier2: replay.ideal_score.brier })}
        </p>
      </div>
      <div className="sheet overflow-x-auto">
        <table className="w-full text-left text-sm">
          <thead>
            <tr className="border-b border-line">
              <th scope="col" className="px-2 py-1">{t("Cylinder")}</th>
              <th scope="col" className="px-2 py-1">{t("It was")}</th>
              <th scope="col" className="px-2 py-1">{t("You said")}</th>
              <th scope="col" className="px-2 py-1">{t("The model, with what was shown")}</th>
              {wrote && <th scope="col" className="px-2 py-1">{t("The model, with what you wrote")}</th>}
              <th scope="col" className="px-2 py-1">{t("The observer")}</th>
            </tr>
          </thead>
          <tbody className="divide-y divide-line">
            {replay.truth.map((one) => (
              <tr key={one.cylinder}>
                <th scope="row" className="px-2 py-1 text-lg">{one.cylinder}</th>
                <td className="px-2 py-1 font-bold">{one.faults.length > 0 ? one.faults.map((fault) => words.fault(fault)).join("; ") : t("sound")}</td>
                <td className="px-2 py-1">{said(answer.claims, one.cylinder)}</td>
                <td className="px-2 py-1">{said(replay.model_claims, one.cylinder)}</td>
                {wrote && <td className="px-2 py-1">{said(replay.record_claims, one.cylinder)}</td>}
                <td className="px-2 py-1">{said(replay.ideal_claims, one.cylinder)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {replay.shared.length > 0 && <p className="px-2 py-1 text-sm">{t("And of all: {{shared}}.", { shared: replay.shared.map((one) => words.fault(one)).join(", ") })}</p>}
      </div>
      <div className="sheet p-3" role="group" aria-label={t("Your record")}>
        <h3 className="font-bold">{t("Your record")}</h3>
        <p className="text-sm">
          {wrote
            ? t("{{right}} findings as they were shown, {{slips}} otherwise, {{left}} not written down.", { right, slips: slips.length, left })
            : t("Nothing was written down.")}
        </p>
        <ul className="text-sm">
          {slips.map((one) => (
            <li key={one.path}>
              {spoken(one.path)}: <b className="text-rust">{saidOf(one.written)}</b> {t("written, {{shown}} shown", { shown: saidOf(one.shown) })}
            </li>
          ))}
        </ul>
      </div>
      <div className="grid gap-4 sm:grid-cols-2">
        <Path title={t("What you did")} acts={round.acts} />
        <Path title={t("What the observer did")} acts={replay.ideal} />
      </div>
    </section>
  );
}

function Path({ title, acts }: { title: string; acts: readonly Act[] }) {
  return (
    <section aria-label={title} className="sheet p-3">
      <h3 className="font-bold">{title}</h3>
      {acts.length === 0 && <p className="caption">{t("Nothing.")}</p>}
      <ol className="text-sm">
        {acts.map((act, at) => (
          <li key={`${act.test} ${act.cylinders.join()}`}>
            {t("{{at}}. {{label}} on {{cylinders}}: {{minutes}} min,", { at: at + 1, label: act.label, cylinders: act.cylinders.join(", "), minutes: act.minutes })}{" "}{act.bits}{" "}{t("bits")}
          </li>
        ))}
      </ol>
    </section>
  );
}
