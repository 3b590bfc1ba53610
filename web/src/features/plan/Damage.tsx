import { t } from "../../language";
import { useState } from "react";
import { SelectField } from "../../primitives/Field";
import { PhotoStrip, type Photos } from "../photos";
import { ListLine, type Recorder } from "../record";
import { NoteLine } from "./NoteLine";

const WHEN = [
  { value: "as-found", label: t("as found") },
  { value: "as-left", label: t("as left") },
] as const;
type When = (typeof WHEN)[number]["value"];

/** What was broken when the work began, and what is when it ends: with photos, before anyone asks. */
export function Damage({ recorder, photos }: { recorder: Recorder; photos: Photos }) {
  const { document, onRecord, disabled } = recorder;
  const [when, setWhen] = useState<When>("as-found");
  const noted = document.work?.damage ?? [];
  const add = (what: string) => {
    const base = `/work/damage/damage-${Date.now().toString(36)}`;
    onRecord([
      [`${base}/what`, what],
      [`${base}/when`, when],
    ]);
  };
  return (
    <section aria-label={t("Damage")} className="grid gap-2">
      <h3 className="border-b border-line font-bold">{t("Damage, as found and as left")}</h3>
      <ul className="grid gap-2">
        {noted.map((one) => (
          <li key={one.id} className="grid gap-1 border-b border-line pb-1">
            <ListLine recorder={recorder} item={`/work/damage/${one.id}`} name={one.what ?? t("Damage")} words="what">
              <b className="caption">{one.when?.replace("-", " ")}</b> {one.what}
            </ListLine>
            <div className="print:hidden">
              <PhotoStrip
                recorder={recorder}
                photos={photos}
                path={`/work/damage/${one.id}/photos`}
                of={one.what ?? t("Damage")}
              />
            </div>
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-[8rem_1fr] items-end gap-2 print:hidden">
        <SelectField disabled={disabled} label={t("When")} value={when} options={WHEN} onChange={(next) => setWhen(next || when)} />
        <NoteLine label={t("What is broken, worn or missing")} disabled={disabled} onNote={add} />
      </div>
    </section>
  );
}
