import { t } from "../../language";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { Button } from "../../primitives/Button";
import { Question } from "../../primitives/Question";
import { Tick } from "../../primitives/Tick";
import { useAccompanied } from "../guide/accompanied";
import type { Round } from "../round";
import { GENERAL_KEYS } from "./meaning";
import { useSingleKeys } from "./singleKeys";
import { STEPS } from "./steps";

interface Props {
  /** The step that is open: its page of the guide is one tap away. */
  step: string;
  /** The round that is open: its own keys stand first. */
  round: Round | undefined;
  onClose: () => void;
  /** What else a person may want here: on a phone, what the header has no room for. */
  children?: ReactNode;
}

/** Every key, from the same tables that the keyboard is read by. */
export function KeysPage({ step, round, onClose, children }: Props) {
  const [singleKeys, setSingleKeys] = useSingleKeys();
  const [accompanied, accompany] = useAccompanied();
  return (
    <Question title={t("Keys")} onClose={onClose}>
      {children}
      <Tick checked={singleKeys} onChange={setSingleKeys}>
        {t("Letters and digits act on their own. Off: only arrows, Enter, Esc and Ctrl with z do.")}
      </Tick>
      <Tick checked={accompanied} onChange={accompany}>
        {t("Accompany me: what to do now, and why.")}{" "}<Link to={`/guide/${step}`} className="target text-teal underline">{t("The guide to this step")}</Link>
      </Tick>
      <div className="grid max-h-[55vh] gap-3 overflow-y-auto text-sm" tabIndex={0} role="group" aria-label={t("The keys")}>
        {round && round.answers.length > 0 && (
          <Keys title={round.title} keys={round.answers.map((one) => [one.key, `${one.label}: ${one.tell}`] as const)} />
        )}
        <Keys title={t("Everywhere")} keys={GENERAL_KEYS} />
        <Keys title={t("With Shift, to a step")} keys={STEPS.map((step) => [step.key.toUpperCase(), step.label] as const)} />
      </div>
      <Button weight="main" onClick={onClose}>
        {t("Close")}
      </Button>
    </Question>
  );
}

function Keys({ title, keys }: { title: string; keys: readonly (readonly [string, string])[] }) {
  return (
    <section aria-label={title}>
      <h3 className="border-b border-line font-bold">{title}</h3>
      <dl className="grid grid-cols-[auto_1fr] items-baseline gap-x-3 gap-y-0.5">
        {keys.map(([key, what]) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="keycap block whitespace-nowrap">{key}</kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
