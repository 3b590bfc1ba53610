import { t } from "../../language";
import { correctable, type Entry, type Reason, type Storage } from "../../queue";
import { saidOf, spoken } from "../record/spoken";

/** "1 entry", "3 entries". */
export function entries(count: number): string {
  return `${count} ${count === 1 ? "entry" : "entries"}`;
}

/** What is wrong with the place where entries are kept, and what to do; undefined while nothing is. */
export const STORAGE_WORDS: Partial<Record<Storage, string>> = {
  full: t("This device is full: make room, for what is not sent yet is only in this page."),
  blocked: t("An older Fiacre is open in another tab: close it, for until then entries are kept in this page only."),
  outdated: t("A newer Fiacre is open in another tab: load this page again, once everything is saved."),
  missing: t("This browser keeps nothing (a private window?): what is not sent yet is gone when this page closes."),
};

const REASONS: Record<string, string> = {
  "signed-off": t("It was signed off meanwhile: an amendment has to be opened first."),
  "from-file": t("It was read from a file: it is sent once you say so."),
  "server-fails": t("The server failed on it three times."),
  permission_denied: t("Your role in this shop is to look, not to write."),
  not_found: t("What it belongs to is not there, or not yours to see."),
};

/** Why an entry was set aside, for whoever made it. */
export function why({ code, text }: Reason): string {
  return REASONS[code] ?? (correctable({ code, text }) ? t("Wanted: {{text}}.", { text }) : text);
}

/** What an entry says, and of what. */
export function told({ act }: Entry): { what: string; value: string } {
  switch (act.kind) {
    case "say":
      return { what: spoken(act.path), value: act.keeps ? t("keep what stands") : saidOf(act.value) };
    case "photo":
      return { what: spoken(act.path), value: t("a photo") };
    case "engine":
      return { what: t("a new engine"), value: act.data.title ?? "" };
    case "begin":
      return { what: t("a new inspection"), value: act.date };
  }
}
