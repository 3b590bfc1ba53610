import { t } from "../../language";
import { useCallback, useMemo, useRef, type RefObject } from "react";
import { at, type Entries, type Recorder } from "../record";
import { beside } from "../bench";
import { addsInWords, offer } from "./onlyAdding";
import { answered, copied, following, waiting, type Answer, type Round } from "./rounds";
import { useOnlyAdding, type OnlyAdding } from "./useOnlyAdding";

/** What a hand can do in a round, whichever way it asks: by key, by button, by the bar of a phone. */
export interface Acting {
  round: Round | undefined;
  adding: OnlyAdding;
  /** `when` is when the key or the tap came, on the page's own clock. */
  answer: (answer: Answer, when?: number) => void;
  /** Record what the cylinder before it shows; undefined where that shows nothing. */
  same: (() => void) | undefined;
  /** Say of all that are still open what is said of this one, or of the one before; undefined where none is. */
  alike: (() => void) | undefined;
  next: () => void;
  back: () => void;
  /** Somebody has said where the hand is: what comes is of that cylinder. */
  settle: () => void;
  /** Where next leads; undefined where the round is whole. */
  following: number | undefined;
  /** Where back leads; undefined at the first. */
  before: number | undefined;
  /** The field of the round's number, and how the view hangs it in. */
  figure: RefObject<HTMLInputElement | null>;
  holdFigure: (field: HTMLInputElement | null) => void;
  /** Put the keyboard into the round's number, as soon as it is there. */
  awaitFigure: () => void;
  /** Open or fold away every other word of this round; the view hangs it in. */
  details: RefObject<(() => void) | null>;
}

interface Place {
  onChoose: (cylinder: number) => void;
  /** Where to go when the round is whole. */
  onWhole: () => void;
}

/** Within a breath of moving on by itself a finding is still of the cylinder that was left. */
export const BREATH_MS = 700;

/** The hand in one round, at one cylinder. */
export function useRound(recorder: Recorder | undefined, round: Round | undefined, { onChoose, onWhole }: Place): Acting {
  const { document, cylinder, onRecord: say, disabled } = recorder ?? NOWHERE;
  const opening = round?.opening;
  const onRecord = useCallback((entries: Entries) => say([...(opening ?? []), ...entries]), [say, opening]);
  const adding = useOnlyAdding({ document, cylinder, onRecord });
  const figure = useRef<HTMLInputElement>(null);
  const awaited = useRef(false);
  const details = useRef<() => void>(null);
  const { read, leave, tell } = adding;
  const moved = useRef<{ from: number; to: number; when: number }>(undefined);
  const settle = useCallback(() => {
    moved.current = undefined;
  }, []);
  const next = useMemo(() => (recorder ? following(document, round, cylinder) : undefined), [recorder, document, round, cylinder]);
  const before = recorder ? beside(document, cylinder, -1) : undefined;
  // What moved on by itself is what "the rest" is like.
  const like = round && !answered(document, round, cylinder) && before !== undefined ? before : cylinder;
  const rest = useMemo(
    () => (recorder && round ? waiting(document, round).filter((number) => number !== like) : []),
    [recorder, document, round, like],
  );
  const go = useCallback(
    (to: number | undefined) => {
      settle();
      leave();
      if (to !== undefined) onChoose(to);
    },
    [settle, leave, onChoose],
  );
  const answer = useCallback(
    (one: Answer, when = performance.now()) => {
      if (disabled) return;
      const left = moved.current;
      settle();
      const of = (number: number): Entries => one.sets.map(([path, value]) => [at(path, number), value]);
      // Nobody has looked at the next one yet: tan, worn is said of one plug. What would change it is of the next.
      const soon = !one.whole && left?.to === cylinder && when - left.when < BREATH_MS;
      const follows = soon && offer(document, of(left.from)).changes.length === 0;
      const whose = follows ? left.from : cylinder;
      const reading = of(whose);
      const outcome = read({ key: one.key, label: one.label, cylinder: whose, reading });
      if (follows) onChoose(whose);
      if (outcome !== "stands" || !one.whole || next === undefined) return;
      if (!one.alone) moved.current = { from: cylinder, to: next, when };
      onChoose(next);
    },
    [disabled, document, cylinder, read, settle, next, onChoose],
  );
  const shown = round && before !== undefined ? copied(document, round, before, cylinder) : [];
  const same = () => {
    read({ key: "=", label: t("As {{before}}", { before }), cylinder, reading: shown });
  };
  // It fills, and leaves what somebody said of one of them as it stands.
  const alikeTo = round ? rest.flatMap((number) => offer(document, copied(document, round, like, number)).adds) : [];
  const alike = () => {
    onRecord(alikeTo);
    const said = round ? addsInWords(copied(document, round, like, like)) : "";
    tell(t("{{rest}} as {{like}}, each looked at: {{said}}.", { rest: rest.join(", "), like, said }));
  };
  return {
    round,
    adding,
    answer,
    same: disabled || shown.length === 0 ? undefined : same,
    alike: disabled || alikeTo.length === 0 ? undefined : alike,
    next: useCallback(() => (next === undefined ? onWhole() : go(next)), [next, go, onWhole]),
    back: useCallback(() => go(before), [go, before]),
    settle,
    following: next,
    before,
    figure,
    holdFigure: useCallback((field) => {
      figure.current = field;
      if (awaited.current && field && window.document.activeElement === window.document.body) field.focus({ preventScroll: true });
      if (field) awaited.current = false;
    }, []),
    awaitFigure: useCallback(() => {
      awaited.current = figure.current === null;
      figure.current?.focus({ preventScroll: true });
    }, []),
    details,
  };
}

// Before the record is there: nothing to say, nowhere to go.
const NOWHERE = {
  document: { engine: { cylinders: 0 } },
  cylinder: 1,
  onRecord: () => undefined,
  disabled: true,
  problem: () => undefined,
} as unknown as Recorder;
