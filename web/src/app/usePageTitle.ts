import { t } from "../language";
import { useEffect } from "react";

/** What the window, its history and a screen reader call the page. */
export function usePageTitle(title: string): void {
  useEffect(() => {
    document.title = t("{{title}} · Fiacre", { title });
  }, [title]);
}
