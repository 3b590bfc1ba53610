import { t } from "../../language";
import { useQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { NavLink, useNavigate, useParams, useSearchParams } from "react-router";
import { api, Refused, take } from "../../api/client";
import { usePageTitle } from "../../app/usePageTitle";
import { Button } from "../../primitives/Button";
import { SelectField } from "../../primitives/Field";
import { askOrRecall } from "../../storage/kept";
import { calculate, type Calculator } from "./calculate";
import { Drawing } from "./drawings";
import { example, keysOf, sent, type Key } from "./form";
import { useFromInspection } from "./fromInspection";
import { KeyEntry } from "./KeyEntry";
import { Result } from "./Result";

/** Calculators by themselves; the address holds what was entered, so that it can be sent on. */
export default function CalculatorsPage() {
  usePageTitle(t("Calculators"));
  const { name = "units" } = useParams();
  const navigate = useNavigate();
  const { data, error } = useQuery({
    queryKey: ["calculators"],
    queryFn: () => askOrRecall("calculators", () => take<Calculator[]>(api.GET("/api/calculators"))),
  });
  const chosen = data?.find((one) => one.name === name);
  return (
    <div className="grid gap-4 md:grid-cols-[13rem_1fr]">
      <nav aria-label={t("Calculators")}>
        <h1 className="mb-2 text-xl font-bold">{t("Calculators")}</h1>
        <div className="md:hidden">
          <SelectField
            label={t("Which one")}
            value={name}
            options={(data ?? []).map((one) => ({ value: one.name, label: one.title }))}
            onChange={(next) => void navigate(`/calculators/${next}`)}
          />
        </div>
        <ul className="hidden md:block">
          {data?.map((one) => (
            <li key={one.name}>
              <NavLink
                to={`/calculators/${one.name}`}
                className="target flex min-h-9 items-center border-l-3 border-transparent pl-2 text-teal aria-[current=page]:border-teal aria-[current=page]:font-bold aria-[current=page]:text-ink"
              >
                {one.title}
              </NavLink>
            </li>
          ))}
        </ul>
      </nav>
      {error && (
        <p role="alert" className="text-rust">
          {error.message}
        </p>
      )}
      {data && !chosen && <p>{t("There is no calculator of that name.")}</p>}
      {chosen && <CalculatorForm key={chosen.name} calculator={chosen} />}
    </div>
  );
}

function CalculatorForm({ calculator }: { calculator: Calculator }) {
  const [search, setSearch] = useSearchParams();
  const keys = keysOf(calculator);
  const empty = search.size === 0;
  const taken = useFromInspection(calculator.name);
  const texts = empty ? { ...example(calculator), ...taken?.texts } : Object.fromEntries(search);
  const body = useDeferredValue(JSON.stringify(sent(keys, texts)));
  const { data, error } = useQuery({
    queryKey: ["calculate", calculator.name, body],
    queryFn: () => calculate(calculator.name, JSON.parse(body) as object),
    retry: false,
  });
  const set = (name: string, text: string) => {
    const next = { ...texts, [name]: text };
    setSearch(Object.fromEntries(Object.entries(next).filter(([, value]) => value !== "")), { replace: true });
  };
  const problems = error instanceof Refused ? error.problems : [];
  const at = (name: string) => problems.find((one) => one.path.split("/")[1] === name)?.expected;
  const entry = (key: Key) => (
    <KeyEntry key={key.name} field={key} text={texts[key.name] ?? ""} error={at(key.name)} onChange={(text) => set(key.name, text)} />
  );
  const further = keys.filter((key) => !key.needed);
  const elsewhere = error && !problems.some((one) => keys.some((key) => one.path.split("/")[1] === key.name));
  return (
    <section aria-label={calculator.title} className="grid content-start gap-4 lg:grid-cols-[1fr_19rem]">
      <div className="sheet grid content-start gap-3 p-4">
        <h2 className="text-lg font-bold">{calculator.title}</h2>
        {keys.filter((key) => key.needed).map(entry)}
        {further.length > 0 && (
          <fieldset className="grid items-start gap-x-4 gap-y-3 sm:grid-cols-2">
            <legend className="caption mb-1 italic">{t("where you know it")}</legend>
            {further.map(entry)}
          </fieldset>
        )}
        {empty ? (
          <p className="caption">
            {taken ? t("As far as it is known, the figures of {{title}}; the rest is an example. Type over it.", { title: taken.title }) : t("An example: type over it.")}
          </p>
        ) : (
          <Button className="w-fit" onClick={() => setSearch({}, { replace: true })}>
            {t("Back to the example")}
          </Button>
        )}
      </div>
      <div className="grid content-start gap-3">
        <div className="sheet min-h-24 p-4">
          {elsewhere && (
            <p role="alert" className="text-rust">
              {problems[0]?.expected ?? error.message}
            </p>
          )}
          {data && !error && (
            <>
              <Drawing name={calculator.name} title={calculator.title} values={sent(keys, texts)} answer={data} />
              <Result answer={data} calculator={calculator} />
              <Mind warnings={data.warnings} />
            </>
          )}
        </div>
        <dl className="text-sm">
          <dt className="caption">{t("Formula")}</dt>
          <dd className="mb-2">{calculator.formula}</dd>
          <dt className="caption">{t("Source")}</dt>
          <dd className="mb-2">{{ practice: t("common practice, no source"), memory: t("from memory, to be confirmed") }[calculator.source] ?? calculator.source}</dd>
          <dt className="caption">{t("Holds for")}</dt>
          <dd>{calculator.note}</dd>
        </dl>
      </div>
    </section>
  );
}

function Mind({ warnings }: { warnings: unknown }) {
  const told = Array.isArray(warnings) ? (warnings as readonly { code: string; text: string }[]) : [];
  return (
    <ul className="mt-2 grid gap-1 text-sm">
      {told.map((one) => (
        <li key={one.code} className="border-l-4 border-ochre pl-2">
          {one.text}
        </li>
      ))}
    </ul>
  );
}
