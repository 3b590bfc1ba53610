import { t } from "../../language";
import { Link } from "react-router";
import { Button } from "../../primitives/Button";
import { useAccompanied } from "./accompanied";
import { nowAndWhy } from "./pages";

/** At a step: what to do now, why, and the way to more of it. */
export function Accompany({ step }: { step: string }) {
  const [, accompany] = useAccompanied();
  const told = nowAndWhy(step);
  if (!told) return null;
  return (
    <aside aria-label={t("What to do now")} className="mx-2 mb-2 flex flex-wrap items-center gap-x-4 gap-y-1 rounded-md border-l-4 border-teal bg-sheet px-3 py-2 text-sm lg:mx-0 print:hidden">
      <p className="min-w-56 flex-1">
        <b>{told.now}</b> <span className="hidden sm:inline">{told.why}</span>
      </p>
      <Link to={`/guide/${step}`} className="target text-teal underline">
        {t("More")}
      </Link>
      <Button onClick={() => accompany(false)}>{t("I know my way")}</Button>
    </aside>
  );
}
