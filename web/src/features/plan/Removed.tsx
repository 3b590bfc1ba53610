import { t } from "../../language";
import { Tick } from "../../primitives/Tick";
import { ListLine, type Recorder } from "../record";
import { NoteLine } from "./NoteLine";

/** What was unclipped or taken off, last first, ticked on the way back. */
export function Removed({ recorder }: { recorder: Recorder }) {
  const { document, onRecord, disabled } = recorder;
  const removed = [...(document.work?.removed ?? [])].reverse();
  const open = removed.filter((one) => !one.back).length;
  const add = (what: string) => {
    onRecord([[`/work/removed/part-${Date.now().toString(36)}/what`, what]]);
  };
  return (
    <section aria-label={t("Taken off")}>
      <h3 className="mb-1 flex justify-between border-b border-line font-bold">
        {t("Taken off, last first")}{" "}<span className="caption">{t("{{open}} still off", { open })}</span>
      </h3>
      <ul className="grid gap-1">
        {removed.map((one) => (
          <li key={one.id}>
            <ListLine recorder={recorder} item={`/work/removed/${one.id}`} name={one.what ?? t("a part")} words="what">
              <Tick
                checked={one.back === true}
                disabled={disabled}
                onChange={(checked) => onRecord([[`/work/removed/${one.id}/back`, checked]])}
              >
                <span className={one.back ? "text-soft line-through" : ""}>{one.what}</span>
                <span className="caption ml-auto">{one.back ? t("back") : t("off")}</span>
              </Tick>
            </ListLine>
          </li>
        ))}
      </ul>
      <div className="mt-1 print:hidden">
        <NoteLine label={t("Unclipped or taken off")} disabled={disabled} onNote={add} />
      </div>
    </section>
  );
}
