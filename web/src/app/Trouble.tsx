import { t } from "../language";
import { Button } from "../primitives/Button";

/** Shown in place of a page or a step that could not be shown; what was entered is safe elsewhere. */
export function Trouble({ what }: { what: string }) {
  return (
    <div role="alert" className="grid justify-items-start gap-2 p-4">
      <p className="font-bold text-rust">{t("{{what}} cannot be shown.", { what })}</p>
      <p className="text-sm">
        {t("What was entered is kept. Without a network, parts that were never opened on this device may be missing; else loading the page again brings the newest version.")}
      </p>
      <Button onClick={() => window.location.reload()}>{t("Load the page again")}</Button>
    </div>
  );
}
