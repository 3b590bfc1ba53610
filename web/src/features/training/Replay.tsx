import { money, type Words } from "../assessment";
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
  const said = (claims: readonly Claim[], cylinder: number) => {
    const claim = claims.find((one) => one.cylinder === cylinder);
    return claim ? `${claim.fault ? words.fault(claim.fault) : "sound"}, ${Math.round(claim.percent)} %` : "";
  };
  return (
    <section aria-label="How it went" className="grid gap-4">
      <div className="sheet grid gap-1 p-4">
        <p className="text-3xl font-bold">{score.points} points</p>
        <p>
          {score.found} of {score.of} faults named rightly
          {score.wrong.length > 0 && (
            <b className="text-rust">
              ; sound and convicted: {score.wrong.join(", ")}, {score.for_nothing} hours of work for nothing
            </b>
          )}
          .{score.missed_danger && <b className="text-rust"> It must not run, and was let run.</b>}
        </p>
        <p className="text-sm">
          At {round.rate} {round.currency} an hour: {cost(score.minutes, round)} of finding
          {score.for_nothing > 0 && <b>, {cost(60 * score.for_nothing, round)} of work for nothing</b>}. The observer: {cost(replay.ideal_score.minutes, round)}.
        </p>
        <p className="text-sm text-soft">
          {score.minutes} minutes, {score.bits} bits learnt; off by {score.brier} (Brier, 0 is best). The observer: {replay.ideal_score.points} points,{" "}
          {replay.ideal_score.minutes} minutes, {replay.ideal_score.bits} bits, off by {replay.ideal_score.brier}.
        </p>
      </div>
      <div className="sheet overflow-x-auto">
        <table className="w-full text-left text-sm">
          <thead>
            <tr className="border-b border-line">
              <th scope="col" className="px-2 py-1">Cylinder</th>
              <th scope="col" className="px-2 py-1">It was</th>
              <th scope="col" className="px-2 py-1">You said</th>
              <th scope="col" className="px-2 py-1">The model, with what you read</th>
              <th scope="col" className="px-2 py-1">The observer</th>
            </tr>
          </thead>
          <tbody className="divide-y divide-line">
            {replay.truth.map((one) => (
              <tr key={one.cylinder}>
                <th scope="row" className="px-2 py-1 text-lg">{one.cylinder}</th>
                <td className="px-2 py-1 font-bold">{one.faults.length > 0 ? one.faults.map((fault) => words.fault(fault)).join("; ") : "sound"}</td>
                <td className="px-2 py-1">{said(answer.claims, one.cylinder)}</td>
                <td className="px-2 py-1">{said(replay.model_claims, one.cylinder)}</td>
                <td className="px-2 py-1">{said(replay.ideal_claims, one.cylinder)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {replay.shared.length > 0 && <p className="px-2 py-1 text-sm">And of all: {replay.shared.map((one) => words.fault(one)).join(", ")}.</p>}
      </div>
      <div className="grid gap-4 sm:grid-cols-2">
        <Path title="What you did" acts={round.acts} />
        <Path title="What the observer did" acts={replay.ideal} />
      </div>
    </section>
  );
}

function Path({ title, acts }: { title: string; acts: readonly Act[] }) {
  return (
    <section aria-label={title} className="sheet p-3">
      <h3 className="font-bold">{title}</h3>
      {acts.length === 0 && <p className="caption">Nothing.</p>}
      <ol className="text-sm">
        {acts.map((act, at) => (
          <li key={`${act.test} ${act.cylinders.join()}`}>
            {at + 1}. {act.label} on {act.cylinders.join(", ")}: {act.minutes} min, {act.bits} bits
          </li>
        ))}
      </ol>
    </section>
  );
}
