import { t } from "../../language";
import { Link } from "react-router";
import { useQueue, useSummary } from "../../queue";
import { useDrafts } from "../../primitives/drafts";
import { entries, STORAGE_WORDS } from "./words";

/** What is saved where, in a few words that are always true; a tap leads to the whole of it. */
export function SaveState() {
  const state = useQueue();
  const { waiting, unwritten, aside, others } = useSummary();
  const drafts = useDrafts();
  const locked = others.reduce((sum, one) => sum + one.count, 0);
  const open = state.trouble !== undefined && waiting > 0;
  const more = [
    aside > 0 && t("{{aside}} set aside", { aside }),
    locked > 0 && t("{{locked}} of others", { locked }),
    !open && waiting === 0 && aside + locked === 0 && STORAGE_WORDS[state.storage] && t("Not kept here"),
  ].filter(Boolean);
  return (
    <div className="flex min-w-0 flex-wrap items-center justify-end gap-x-2">
      <p role="status" aria-label={t("Entries")} className={open ? "text-sm font-medium text-rust" : "caption whitespace-nowrap"}>
        {sentence()}
      </p>
      {(more.length > 0 || open) && (
        <Link to="/device" className={`text-sm underline ${aside > 0 ? "font-medium text-rust" : "text-teal"}`}>
          {more.length > 0 ? more.join(", ") : t("Which?")}
        </Link>
      )}
    </div>
  );

  function sentence(): string {
    if (!state.ready && waiting === 0) return STORAGE_WORDS[state.storage] ?? t("Looking for entries on this device ...");
    if (waiting === 0) return drafts > 0 ? t("{{drafts}} half typed", { drafts }) : t("All saved");
    if (!open) return t("Saving {{waiting}} ...", { waiting: entries(waiting) });
    if (unwritten === 0) return t("{{waiting}} on this device, not yet saved. {{trouble}}", { waiting: entries(waiting), trouble: state.trouble });
    const { storage } = state;
    if (storage === "open" || storage === "opening") return t("Writing {{waiting}} to this device ... {{trouble}}", { waiting: entries(waiting), trouble: state.trouble });
    return t("{{unwritten}} only in this page. {{STORAGE_WORDS}}", { unwritten: entries(unwritten), STORAGE_WORDS: STORAGE_WORDS[storage] });
  }
}
