import { t } from "../../language";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, take } from "../../api/client";
import { usePageTitle } from "../../app/usePageTitle";
import { Button } from "../../primitives/Button";
import { askOrRecall } from "../../storage/kept";
import { Choice, type Option } from "../../primitives/Choice";
import { LineEntry } from "../../primitives/LineEntry";
import { NumberField } from "../../primitives/number";
import { useWords } from "../assessment";
import { isOwner, useSession } from "../session/useSession";
import { Minutes } from "./Minutes";
import { ACTS, CHOICES, CLASSES, type Class, type Rules } from "./rules";

interface PricesProps {
  legend: string;
  of: readonly { value: Class; label: string }[];
  rules: Rules;
  onHours: (value: Class, field: "hours" | "bad_hours", number: number | undefined) => void;
  disabled: boolean;
}

/** Hours of some classes of work or acts. */
function Prices({ legend, of, rules, onHours, disabled }: PricesProps) {
  return (
    <fieldset className="grid content-start gap-1">
      <legend className="caption">{legend}</legend>
      {of.map(({ value, label }) => (
        <div key={value} className="grid grid-cols-2 items-end gap-2">
          {(["hours", "bad_hours"] as const).map((field) => (
            <NumberField
              key={field}
              label={field === "hours" ? t("{{label}}, usual", { label }) : t("{{label}}, bad luck", { label })}
              value={rules.prices?.[value]?.[field]}
              onChange={(number) => onHours(value, field, number)}
              disabled={disabled}
            />
          ))}
        </div>
      ))}
    </fieldset>
  );
}

/** How this shop judges: tried on its latest inspections before it is put in force. */
export function RulesPage() {
  usePageTitle(t("House rules"));
  const { person } = useSession();
  const words = useWords();
  const disabled = !isOwner(person);
  const queries = useQueryClient();
  const known = useQuery({ queryKey: ["rules"], queryFn: () => askOrRecall("rules", () => take(api.GET("/api/shop/rules"))) });
  const [draft, setDraft] = useState<Rules | undefined>();
  const rules = draft ?? known.data?.rules ?? {};
  const set = (next: Partial<Rules>) => {
    const kept = Object.entries({ ...rules, ...next }).filter(([, value]) => value !== undefined && value !== "");
    setDraft(Object.fromEntries(kept) as Rules);
  };
  const tried = useMutation({ mutationFn: () => take(api.POST("/api/shop/rules/try", { body: { rules } })) });
  const saved = useMutation({
    mutationFn: () => take(api.PUT("/api/shop/rules", { body: { rules } })),
    onSuccess: (next) => {
      queries.setQueryData(["rules"], next);
      setDraft(undefined);
      tried.reset();
    },
  });
  const trouble = known.error ?? tried.error ?? saved.error;
  const hours = (value: Class, field: "hours" | "bad_hours", number: number | undefined) => {
    const own = { ...rules.prices?.[value], [field]: number };
    set({ prices: { ...rules.prices, [value]: own } });
  };
  return (
    <section className="grid gap-4" aria-label={t("House rules")}>
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h1 className="text-xl font-bold">{t("House rules")}</h1>
        <p className="caption">
          {known.data?.version
            ? t("version {{version}}, by {{by}}, {{at}}", { version: known.data.version, by: known.data.by, at: known.data.at?.slice(0, 10) })
            : t("none yet: the defaults are in force")}
          . <Link to="/" className="text-teal underline">{t("Back to the shop")}</Link>
        </p>
      </div>
      {disabled && <p className="text-sm text-soft">{t("An owner of the shop puts rules in force.")}</p>}
      {trouble && (
        <p role="alert" className="text-rust">
          {trouble.message}
        </p>
      )}
      <div className="sheet grid gap-4 p-4 lg:grid-cols-2">
        <div className="grid content-start gap-3">
          <LineEntry label={t("Name")} value={rules.name ?? ""} onCommit={(name) => set({ name })} disabled={disabled} />
          {CHOICES.map((one) => (
            <Choice
              key={one.field}
              label={one.label}
              options={one.options as readonly Option<string>[]}
              value={rules[one.field] as string | undefined}
              onChange={(value) => set({ [one.field]: value } as Partial<Rules>)}
              disabled={disabled}
              absent={one.absent}
            />
          ))}
          <NumberField
            label={t("Cut of the torque for lubricated threads, %")}
            hint={t("30 where nothing is said; 20 to 40 is quoted. 0 leaves the full figure, and warns.")}
            value={rules.lubricated_cut}
            onChange={(lubricated_cut) => set({ lubricated_cut })}
            disabled={disabled}
          />
          <div className="grid grid-cols-2 gap-2">
            <NumberField
              label={t("Rate for an hour")}
              value={rules.hourly_rate}
              onChange={(hourly_rate) => set({ hourly_rate })}
              disabled={disabled}
            />
            <LineEntry label={t("Currency")} value={rules.currency ?? ""} onCommit={(currency) => set({ currency })} disabled={disabled} />
          </div>
        </div>
        <div className="grid content-start gap-4">
          <Prices legend={t("Hours of work: usual, and with bad luck")} of={CLASSES} rules={rules} onHours={hours} disabled={disabled} />
          <details>
            <summary className="target cursor-pointer">{t("The same act by act")}</summary>
            <Prices legend={t("Hours for one, parts counted as hours")} of={ACTS} rules={rules} onHours={hours} disabled={disabled} />
          </details>
          <Minutes minutes={rules.minutes ?? {}} onChange={(minutes) => set({ minutes })} disabled={disabled} />
        </div>
      </div>
      {rules.odds && Object.keys(rules.odds).length > 0 && (
        <p className="flex flex-wrap items-center gap-2 text-sm">
          {t("Odds of this shop’s own record: {{odds}}", { odds: Object.entries(rules.odds)
            .flatMap(([cycle, odds]) => Object.entries(odds ?? {}).map(([fault, factor]) => t("{{fault}} ({{cycle}}) times {{factor}}", { fault: words.fault(fault), cycle, factor })))
            .join("; ") })}
          <Button disabled={disabled} onClick={() => set({ odds: undefined })}>
            {t("Take them back")}
          </Button>
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <Button disabled={disabled || tried.isPending} onClick={() => tried.mutate()}>
          {t("What would change?")}
        </Button>
        <Button weight="main" disabled={disabled || !draft || saved.isPending} onClick={() => saved.mutate()}>
          {t("Put in force")}
        </Button>
        <p className="caption self-center">{t("Inspections already opened keep the rules they were opened under.")}</p>
      </div>
      {tried.data && (
        <div className="sheet p-3" role="status">
          {tried.data.length === 0 ? (
            <p>{t("Nothing would change on the latest inspections.")}</p>
          ) : (
            <ul className="grid gap-2">
              {tried.data.map((one) => (
                <li key={one.inspection}>
                  <Link to={`/inspections/${one.inspection}`} className="font-medium text-teal underline">
                    {one.title}
                  </Link>
                  {one.changes.map((change) => (
                    <p key={change.what} className="text-sm">
                      <span className="caption">{change.what}:</span> {change.before} <span aria-label={t("becomes")}>→</span>{" "}
                      <b>{change.after}</b>
                    </p>
                  ))}
                </li>
              ))}
            </ul>
          )}
        </div>
      )}
    </section>
  );
}
