import { t } from "../../language";
import type { Assessment } from "../../api/client";
import { Claims } from "./Claims";
import { GradeMark, GRADE_WORDS } from "./GradeMark";
import { PlugSet } from "./PlugSet";
import { money, unbroken, useWords } from "./words";

const RUN_WORDS = {
  yes: t("May run."),
  "with-care": t("May run with care."),
  no: t("Must not run."),
  unknown: t("May it run? Not known."),
} as const;

interface Props {
  assessment: Assessment;
  /** Whether reasons and next tests are still of an earlier record. */
  settling: boolean;
  onChoose: (cylinder: number) => void;
  /** Go to where a test is recorded, on the first cylinder that it is for. */
  onStart: (test: string, cylinder: number | undefined) => void;
}

/** Which cylinder, and what next: the answer that is always in sight. */
export function VerdictCard({ assessment, settling, onChoose, onStart }: Props) {
  const words = useWords();
  const { engine, next_tests } = assessment;
  // By no rules at all: it was begun without a network, and nothing is claimed of it.
  const weighed = assessment.rules_version !== "";
  const now = engine.as_left;
  const { may_run, work, rest, grade } = now ?? engine;
  const claims = (now ?? engine).claims.filter((one) => !saidAbove(one, engine));
  const open = now?.open.filter((point) => !claims.some((one) => one.text === `${point}.`)) ?? [];
  return (
    <section className="sheet grid content-start gap-2 p-3" aria-label={t("Verdict")}>
      {now && (
        <details className="text-sm">
          <summary className="target flex cursor-pointer items-center gap-2">
            <GradeMark grade={engine.grade} className="size-6 shrink-0" />
            <span className="caption">{t("As it was found")}: {GRADE_WORDS[engine.grade]}</span>
          </summary>
          <p>{unbroken(engine.verdict)}</p>
        </details>
      )}
      <div className="flex items-start gap-3">
        <GradeMark grade={grade} className="size-12 shrink-0" />
        <div className="min-w-0" aria-live="polite">
          <p className="caption">
            {now ? t("As it was left: {{GRADE_WORDS}}", { GRADE_WORDS: GRADE_WORDS[grade] }) : `${t("The engine")}: ${GRADE_WORDS[grade]}`}
          </p>
          <p className="font-medium">{unbroken(headline(engine, now))}</p>
          {now && <p className="text-sm">{now.done}</p>}
        </div>
      </div>
      {claims.length > 0 && <Claims claims={claims} onChoose={onChoose} />}
      {claims.length > 0 && rest && <p className="caption">{unbroken(rest)}</p>}
      {open.length > 0 && <Open points={open} />}
      {weighed && <Running may_run={may_run} />}
      <PlugSet cylinders={assessment.cylinders} since={Boolean(now)} />
      {work.expected_hours >= 1 && (
        <p className="caption" title={work.note}>
          {t("To expect: about {{expected_hours}} h, {{expected_cost}}; with bad luck (one in ten) {{bad_luck_hours}} h, {{bad_luck_cost}}. No quotation.", { expected_hours: Math.round(work.expected_hours), expected_cost: money(work.expected_cost, work.currency), bad_luck_hours: Math.round(work.bad_luck_hours), bad_luck_cost: money(work.bad_luck_cost, work.currency) })}
        </p>
      )}
      {work.unexamined.bad_luck_cost > 0 && (
        <p className="caption">
          {t("What nobody looked at may cost {{expected_cost}} more, with bad luck {{bad_luck_cost}}; a client's figures leave it out.", { expected_cost: money(work.unexamined.expected_cost, work.currency), bad_luck_cost: money(work.unexamined.bad_luck_cost, work.currency) })}
        </p>
      )}
      {weighed && (next_tests[0] ? (
        <div className="border-t border-line pt-2">
          <p className="caption">{t("What to test next")}</p>
          <ol className="grid gap-0.5 text-sm">
            {next_tests.slice(0, 3).map((test, index) => (
              <li key={test.test} className={index === 0 ? "font-medium" : "text-soft"}>
                <button
                  type="button"
                  className="min-h-8 text-left underline decoration-line underline-offset-4 hover:decoration-teal"
                  onClick={() => onStart(test.test, test.cylinders[0])}
                >
                  {t("{{test}} on {{cylinders}}", { test: words.test(test.test), cylinders: test.cylinders.join(", ") })}
                </button>
                <span className="caption">
                  {t(" {{minutes}} min", { minutes: test.minutes })}
                  {test.access_minutes > 0 && t(", {{access_minutes}} of them to get there", { access_minutes: test.access_minutes })}
                </span>
                {index === 0 && <Foretold reason={test.reason} tells={test.tells} />}
              </li>
            ))}
          </ol>
        </div>
      ) : (
        <p className="caption border-t border-line pt-2">
          {settling ? t("What to test next is being weighed ...") : t("Nothing more to test would change much.")}
        </p>
      ))}
    </section>
  );
}

/** Whether a claim is of the question itself: it is not explained, or not proved; the headline says so. */
function saidAbove({ scope, basis, faults }: Assessment["engine"]["claims"][number], { question }: Assessment["engine"]) {
  return question.text !== "" && scope === "engine" && basis === "rule" && faults.length === 0;
}

/** What it came with, and how that stands; or what it all comes to. */
function headline({ question, claims, verdict }: Assessment["engine"], now: Assessment["engine"]["as_left"]) {
  const told = now?.claims ?? claims;
  if (told.length === 0) return now?.verdict ?? verdict;
  if (!question.text) return t("What stands");
  if (now) return firstOf(now.verdict);
  return question.state === "answered" ? t("{{asked}}: explained by what stands.", { asked: question.asked }) : question.text;
}

/** The first sentence of a verdict. */
function firstOf(verdict: string) {
  const end = verdict.indexOf(". ");
  return end < 0 ? verdict : verdict.slice(0, end + 1);
}

/** What of the work is still open. */
function Open({ points }: { points: readonly string[] }) {
  return (
    <ul className="grid gap-0.5 pl-3 text-sm" aria-label={t("Still open")}>
      {points.map((point) => (
        <li key={point} className="list-disc">
          {unbroken(point)}
        </li>
      ))}
    </ul>
  );
}

/** May it run, and what else running it would risk. */
function Running({ may_run }: Pick<Assessment["engine"], "may_run">) {
  const besides = may_run.hazards.filter((hazard) => hazard.text !== may_run.reason);
  return (
    <>
      <p className="text-sm">
        <b className={may_run.answer === "no" ? "text-rust" : ""}>{RUN_WORDS[may_run.answer]}</b> {may_run.reason}
      </p>
      {besides.length > 0 && (
        <ul className="grid gap-0.5 pl-3 text-sm" aria-label={t("What else running it would risk")}>
          {besides.map((hazard) => (
            <li key={hazard.hazard + hazard.text} className="list-disc">
              {hazard.text}
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

/** Why this test, and what each of its results will mean: said before it is done. */
function Foretold({ reason, tells }: Pick<Assessment["next_tests"][number], "reason" | "tells">) {
  return (
    <span className="caption block font-normal">
      {reason}
      {tells.map((told) => (
        <span key={told.result} className="block pl-3">
          {told.result}: <span className="text-ink">{told.means}</span>
        </span>
      ))}
    </span>
  );
}
