import { t } from "../../language";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, take, type Schemas } from "../../api/client";
import { usePageTitle } from "../../app/usePageTitle";
import { Button } from "../../primitives/Button";
import { askOrRecall } from "../../storage/kept";
import { today } from "../../storage/today";
import { GradeMark, useWords } from "../assessment";
import type { Grade } from "../assessment/GradeMark";

type Due = Schemas["EngineDue"];

const MONTHS = new Intl.DateTimeFormat("en-GB", { month: "long", year: "numeric" });
const LATE = t("Now");
const SOMETIME = t("No day yet");

/** What is due across the shop's engines, month by month. */
export function DuePage() {
  usePageTitle(t("Due"));
  const { data, error } = useQuery({
    queryKey: ["due"],
    queryFn: () => askOrRecall("due", () => take(api.GET("/api/due"))),
    staleTime: 0,
    retry: false,
  });
  const months = byMonth(data?.due ?? []);
  return (
    <div className="grid gap-4">
      <header className="flex flex-wrap items-baseline justify-between gap-2">
        <h1 className="text-xl font-bold">{t("Due")}</h1>
        <span className="flex items-center gap-3 print:hidden">
          <Button onClick={() => window.print()}>{t("Print")}</Button>
          <Link to="/" className="caption text-teal underline">
            {t("Back to the shop")}
          </Link>
        </span>
      </header>
      <p className="max-w-prose text-sm text-soft">
        {t("By what the engines ran from inspection to inspection, by the years, and by what was promised. Your calendar can follow it: Your account, keys, calendar.")}
      </p>
      {error && (
        <p role="alert" className="text-rust">
          {error.message}
        </p>
      )}
      {data?.due.length === 0 && <p className="sheet p-4 text-soft">{t("Nothing that is known of.")}</p>}
      {data?.more && <p className="text-sm text-rust">{t("Only the 200 engines that were inspected last are looked at.")}</p>}
      <Alike alike={data?.alike ?? []} />
      {[...months].map(([month, listed]) => (
        <section key={month} aria-label={month}>
          <h2 className={`mb-1 text-lg font-bold ${month === LATE ? "text-rust" : ""}`}>{month}</h2>
          <ul className="sheet divide-y divide-line">
            {listed.map((one) => (
              <li key={`${one.engine} ${one.kind} ${one.text}`} className="flex items-center gap-3 px-3 py-2">
                <GradeMark grade={one.grade as Grade} className="size-8 shrink-0" />
                <span className="min-w-0 flex-1">
                  <Link to={`/engines/${one.engine}`} className="target font-bold hover:underline">
                    {one.title}
                  </Link>{" "}
                  <span className="caption">{one.identifier}</span>
                  <span className="block text-sm">{one.text}</span>
                </span>
                <time className="caption shrink-0">{one.on}</time>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}

/** A fault that several engines of one kind had: what to look for on the others. */
function Alike({ alike }: { alike: Schemas["ShopDue"]["alike"] }) {
  const words = useWords();
  if (alike.length === 0) return null;
  return (
    <section aria-label={t("The same on several engines")}>
      <h2 className="mb-1 text-lg font-bold">{t("The same on several engines")}</h2>
      <ul className="sheet divide-y divide-line">
        {alike.map((one) => (
          <li key={`${one.kind} ${one.fault}`} className="px-3 py-2 text-sm">
            <b>
              {t("{{fault}} on {{count}} of {{of}}", { fault: words.fault(one.fault), count: one.engines.length, of: one.of })}
              {one.cylinder !== null && t(", cylinder {{cylinder}} each time", { cylinder: one.cylinder })}
            </b>
            :{" "}
            {one.engines.map((engine, at) => (
              <span key={engine.id}>
                {at > 0 && ", "}
                <Link to={`/engines/${engine.id}`} className="target text-teal underline">
                  {engine.title}
                </Link>
              </span>
            ))}
            <span className="caption block">{one.kind}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** In the order in which they come. */
function byMonth(due: readonly Due[]): Map<string, Due[]> {
  const months = new Map<string, Due[]>();
  for (const one of due) months.set(monthOf(one), [...(months.get(monthOf(one)) ?? []), one]);
  return months;
}

function monthOf(one: Due): string {
  if (!one.on) return SOMETIME;
  return one.on <= today() ? LATE : MONTHS.format(new Date(one.on));
}
