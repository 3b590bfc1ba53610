import { t } from "../language";
import { useEffect, useRef, useState } from "react";
import { Link, Outlet, useLocation } from "react-router";
import { SaveState, SignOut } from "../features/device";
import { useSession } from "../features/session";
import { ThemeSwitch } from "./ThemeSwitch";

/** The mark and the way home. */
export function Mark() {
  return (
    <Link to="/" className="flex items-center gap-2 text-teal" aria-label={t("Fiacre, to the shop")}>
      <svg viewBox="0 0 32 32" className="size-8" aria-hidden="true">
        <circle cx="16" cy="18" r="10" fill="none" stroke="currentColor" strokeWidth="2.5" />
        <circle cx="16" cy="18" r="3.6" fill="currentColor" />
        <rect x="14.2" y="2" width="3.6" height="11" rx="1" fill="currentColor" />
      </svg>
      <span className="hidden text-lg font-bold tracking-tight sm:inline">{t("Fiacre")}</span>
    </Link>
  );
}

/** What surrounds every page but the workbench, which has a header of its own. */
export function Frame() {
  const { person } = useSession();
  const main = useRef<HTMLElement>(null);
  const { pathname } = useLocation();
  // Who comes to a page comes to its beginning; the first page begins where the browser does.
  const [arrived] = useState(pathname);
  const left = useRef(false);
  useEffect(() => {
    left.current ||= pathname !== arrived;
    if (left.current) main.current?.focus({ preventScroll: true });
  }, [pathname, arrived]);
  return (
    <div className="min-h-screen">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line bg-sheet px-4 py-2">
        <Mark />
        <span className="truncate font-medium">{person?.shop}</span>
        <Link to="/me" className="target caption ml-auto hidden underline sm:inline" title={t("Your account")}>
          {person?.name}, {person?.role}
        </Link>
        <span className="ml-auto flex items-center gap-2 sm:ml-0">
          <SaveState />
          <ThemeSwitch />
          <SignOut />
        </span>
      </header>
      <main ref={main} tabIndex={-1} className="mx-auto max-w-6xl p-4 outline-none">
        <Outlet />
      </main>
    </div>
  );
}

export function NothingHere() {
  return (
    <section className="sheet p-6">
      <h1 className="text-xl font-bold">{t("There is nothing at this address")}</h1>
      <p className="mt-2">
        {t("It may have been removed, or belong to another shop. ")}
        <Link className="text-teal underline" to="/">
          {t("Back to the shop")}
        </Link>
      </p>
    </section>
  );
}
