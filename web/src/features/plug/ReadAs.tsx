import { FiringEnd } from "./FiringEnd";
import { drawnAs, READINGS, type Reading } from "./findings";

interface Props {
  onRead: (reading: Reading) => void;
  onSame: (() => void) | undefined;
  disabled: boolean;
}

/** Whole readings as drawn plugs, each with its key and what tells it from its look-alike. */
export function ReadAs({ onRead, onSame, disabled }: Props) {
  return (
    <section aria-label="Read it as" className="min-w-0">
      <div className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-1.5">
        {READINGS.map((reading) => (
          <button
            key={reading.key}
            type="button"
            disabled={disabled}
            onClick={() => onRead(reading)}
            aria-keyshortcuts={reading.key}
            className="target flex min-h-14 items-center gap-2 rounded-md border border-line bg-sheet p-1 text-left hover:border-soft disabled:opacity-60"
          >
            <FiringEnd plug={drawnAs(reading)} className="size-11 shrink-0" />
            <span className="min-w-0 flex-1">
              <b className="flex items-baseline justify-between gap-1 text-sm font-medium">
                {reading.label}
                <kbd aria-hidden="true" className="keycap">
                  {reading.key}
                </kbd>
              </b>
              <span className="caption block leading-tight">{reading.tell}</span>
            </span>
          </button>
        ))}
        <button
          type="button"
          disabled={disabled || !onSame}
          onClick={onSame}
          aria-keyshortcuts="="
          className="target flex min-h-14 items-center justify-between gap-2 rounded-md border border-line bg-sheet px-2 text-sm font-medium hover:border-soft disabled:opacity-60"
        >
          Same as the one before
          <kbd aria-hidden="true" className="keycap">
            =
          </kbd>
        </button>
      </div>
    </section>
  );
}
