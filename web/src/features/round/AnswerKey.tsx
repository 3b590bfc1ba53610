import type { MouseEvent, ReactNode } from "react";
import type { Answer } from "./rounds";

interface Props {
  answer: Answer;
  /** Whether the record says it. */
  set: boolean;
  disabled: boolean;
  drawn: ReactNode;
  onAnswer: (answer: Answer) => void;
}

/** One answer as a key: its word, what tells it from its look-alike, the letter that says it. */
export function AnswerKey({ answer, set, disabled, drawn, onAnswer }: Props) {
  const tap = (event: MouseEvent<HTMLButtonElement>) => {
    onAnswer(answer);
    // A tapped key gives the keyboard back to the round: Enter goes on and says nothing again.
    if (event.detail > 0) event.currentTarget.closest<HTMLElement>("[role=tabpanel]")?.focus({ preventScroll: true });
  };
  return (
    <button
      type="button"
      disabled={disabled}
      aria-pressed={set}
      aria-keyshortcuts={answer.key}
      onClick={tap}
      className="target flex min-h-14 flex-col items-center justify-center gap-0.5 rounded-md border-2 border-line bg-sheet p-1 text-center hover:border-soft aria-pressed:border-teal aria-pressed:bg-wash disabled:opacity-60 lg:min-h-[4.4rem] lg:flex-row lg:justify-start lg:gap-2 lg:text-left"
    >
      {drawn && <span className="size-9 shrink-0 lg:size-11">{drawn}</span>}
      <span className="min-w-0 lg:flex-1">
        <b className="flex items-baseline justify-between gap-1 text-sm leading-tight font-medium">
          {answer.label}
          <kbd aria-hidden="true" className="keycap">
            {answer.key}
          </kbd>
        </b>
        <span className="caption hidden leading-tight lg:block">{answer.tell}</span>
      </span>
    </button>
  );
}
