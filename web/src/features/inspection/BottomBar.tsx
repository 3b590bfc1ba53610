import { t } from "../../language";
import type { Assessment } from "../../api/client";
import { GradeMark } from "../assessment";
import type { Acting } from "../round";

interface Props {
  acting: Acting;
  assessment: Assessment;
  onVerdict: () => void;
  onSay: () => void;
}

const KEY = "grid min-h-14 place-items-center rounded-lg border border-line bg-sheet px-1 text-sm leading-tight disabled:opacity-40";

/** Under the thumb of one hand: back, say it, as the last one, next, and the grade, which opens the verdict. */
export function BottomBar({ acting, assessment, onVerdict, onSay }: Props) {
  const { grade } = assessment.engine.as_left ?? assessment.engine;
  return (
    <footer className="fixed inset-x-0 bottom-0 z-20 grid grid-cols-[3.6rem_3.6rem_1fr_1.2fr_4rem] gap-1.5 border-t border-line bg-sheet p-2 pb-[max(0.5rem,env(safe-area-inset-bottom))] lg:hidden print:hidden">
      <button type="button" className={KEY} disabled={acting.before === undefined} onClick={acting.back}>
        {t("back")}{" "}{acting.before}
      </button>
      <button type="button" className={KEY} aria-label={t("Say it")} onClick={onSay}>
        <svg viewBox="0 0 24 24" className="size-8" aria-hidden="true" fill="none" stroke="currentColor" strokeWidth="2">
          <rect x="9" y="2.5" width="6" height="11" rx="3" />
          <path d="M5.5 11a6.5 6.5 0 0 0 13 0M12 17.5V21M8.5 21h7" strokeLinecap="round" />
        </svg>
      </button>
      <button type="button" className={KEY} disabled={!acting.same} onClick={acting.same}>
        {t("as the last one")}
      </button>
      <button type="button" className={`${KEY} border-teal bg-teal font-medium text-on-teal`} onClick={acting.next}>
        {acting.following === undefined ? t("all seen: go on") : t("next {{following}}", { following: acting.following })}
      </button>
      <button type="button" className={KEY} aria-label={t("Grade {{grade}}, and why", { grade })} onClick={onVerdict}>
        <GradeMark grade={grade} className="size-10" />
      </button>
    </footer>
  );
}
