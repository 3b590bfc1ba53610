import { t } from "../../language";
import { Link } from "react-router";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useRef } from "react";
import { api, take } from "../../api/client";
import { isOwner, useSession } from "../session/useSession";
import { usePageTitle } from "../../app/usePageTitle";
import { Button } from "../../primitives/Button";
import { inspectionOf, queue, senderOf, useQueue, useSummary, type Author, type Entry } from "../../queue";
import { exportEntries, readEntries } from "./export";
import { SetAside } from "./SetAside";
import { entries, STORAGE_WORDS, told } from "./words";

/** Everything that is on this device and not in the log yet: what waits, what was set aside, whose it is. */
export function DevicePage() {
  usePageTitle(t("On this device"));
  const state = useQueue();
  const { others } = useSummary();
  const mute = useMute(others.length > 0);
  const own = state.held.map((one) => one.entry).filter((one) => senderOf(one).id === state.person?.id);
  const waiting = own.filter((one) => !one.aside);
  const aside = own.filter((one) => one.aside);
  const storage = STORAGE_WORDS[state.storage];
  return (
    <div className="grid gap-5">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h1 className="text-xl font-bold">{t("On this device")}</h1>
        <div className="flex flex-wrap gap-2">
          {own.length > 0 && <Button onClick={() => void exportEntries(own)}>{t("Export all of mine")}</Button>}
          <TakeIn />
        </div>
      </div>
      {storage && (
        <p role="alert" className="border-l-4 border-rust pl-2">
          {storage}
        </p>
      )}
      {own.length === 0 && others.length === 0 && (
        <p className="sheet p-4 text-soft">
          {t("Nothing waits here: everything that was entered on this device is in the log. What is entered without a network waits on this page until it can be sent.")}
        </p>
      )}
      {waiting.length > 0 && (
        <section aria-label={t("Waiting")} className="sheet p-4">
          <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
            <h2 className="font-bold">{t("{{count}} waiting to be sent", { count: entries(waiting.length) })}</h2>
            <Button weight="main" onClick={queue.retry}>
              {t("Send now")}
            </Button>
          </div>
          {state.trouble && <p className="mb-2 text-sm text-rust">{state.trouble}</p>}
          <ul className="grid gap-1">
            {grouped(waiting).map(([inspection, list]) => (
              <li key={inspection} className="flex flex-wrap gap-x-2 border-t border-line pt-1">
                <Place inspection={inspection} list={list} />
                <span className="caption">
                  {t("{{count}}, the first: {{list}}", { count: entries(list.length), list: said(list[0]) })}
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {aside.length > 0 && <SetAside list={aside} />}
      {others.length > 0 && (
        <section aria-label={t("Of others")} className="sheet p-4">
          <h2 className="mb-1 font-bold">{t("Of others who work on this device")}</h2>
          <p className="mb-2 text-sm text-soft">
            {t("Nobody sends what somebody else entered. It goes out when they sign in here again; of somebody who may no longer write an owner sends it in their name.")}
          </p>
          <ul className="grid gap-2">
            {others.map(({ author, count }) => (
              <li key={author.id} className="flex flex-wrap items-center justify-between gap-2 border-t border-line pt-2">
                <span>
                  {t("{{count}} of", { count: entries(count) })}{" "}<b>{mayKnow(author, state.person) ? author.name : t("somebody of another shop")}</b>
                </span>
                {mayKnow(author, state.person) && (
                  <span className="flex flex-wrap gap-2">
                    {mute.has(author.id) && (
                      <Button weight="main" onClick={() => queue.hand(author.id)}>
                        {t("Send them in their name")}
                      </Button>
                    )}
                    <Button onClick={() => void exportEntries(of(author, state.held.map((one) => one.entry)))}>
                      {t("Export them to a file")}
                    </Button>
                  </span>
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

/** Entries that were exported come back, set aside: whose they are they stay. */
function TakeIn() {
  const chooser = useRef<HTMLInputElement>(null);
  const taken = useMutation({ mutationFn: readEntries, onSuccess: (list) => queue.takeIn(list) });
  return (
    <>
      <Button onClick={() => chooser.current?.click()}>{t("Read an exported file")}</Button>
      <input
        ref={chooser}
        type="file"
        accept=".json,application/json"
        className="sr-only"
        aria-label={t("Exported entries")}
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) taken.mutate(file);
          event.target.value = "";
        }}
      />
      {taken.error && (
        <p role="alert" className="text-sm text-rust">
          {taken.error.message}
        </p>
      )}
    </>
  );
}

/** Who was shut out of the shop or may only look, as far as the signed-in person decides about people. */
function useMute(wanted: boolean): ReadonlySet<string> {
  const owner = isOwner(useSession().person);
  const people = useQuery({ queryKey: ["people"], queryFn: () => take(api.GET("/api/people")), enabled: wanted && owner });
  return new Set(people.data?.filter((one) => !one.active || one.role === "viewer").map((one) => one.id));
}

function mayKnow(author: Author, person: Author | null | undefined): boolean {
  return author.shop === "" || author.shop === person?.shop;
}

function of(author: Author, list: readonly Entry[]): Entry[] {
  return list.filter((one) => senderOf(one).id === author.id);
}

function grouped(list: readonly Entry[]): [string, Entry[]][] {
  const groups = new Map<string, Entry[]>();
  for (const one of list) {
    const inspection = inspectionOf(one.act) ?? "";
    groups.set(inspection, [...(groups.get(inspection) ?? []), one]);
  }
  return [...groups];
}

function said(entry: Entry | undefined): string {
  if (!entry) return "";
  const { what, value } = told(entry);
  return `${what}: ${value}`;
}

/** The inspection that entries belong to. */
function Place({ inspection, list }: { inspection: string; list: readonly Entry[] }) {
  const title = list[0]?.title || t("An inspection");
  if (!inspection) return <b>{title}</b>;
  return (
    <Link to={`/inspections/${inspection}`} className="font-bold text-teal underline">
      {title}
    </Link>
  );
}
