import { t } from "../../language";
import { Choice } from "../../primitives/Choice";
import type { Recorder } from "../record";
import { FIGURES } from "./findings";

const SOURCES = [
  { value: "maker", label: t("maker") },
  { value: "advice", label: t("advice") },
  { value: "guess", label: t("guess") },
] as const;
const PREFIX = "/engine/specification/";

/** Where each figure of the specification comes from; a guess says so in the report. */
export function Sources({ recorder }: { recorder: Recorder }) {
  const { document, onRecord, disabled } = recorder;
  const specification = document.engine.specification ?? {};
  const given = FIGURES.flatMap((group) => group.fields)
    .filter((field) => field.path.startsWith(PREFIX))
    .map((field) => ({ name: field.path.slice(PREFIX.length), label: field.label }))
    .filter(({ name }) => name in specification);
  if (!given.length) return null;
  const known = specification.sources ?? {};
  const set = (name: string, source: string | undefined) => {
    const others = Object.entries(known).filter(([field]) => field !== name);
    const next = source ? [...others, [name, source]] : others;
    onRecord([[`${PREFIX}sources`, next.length ? Object.fromEntries(next) : undefined]]);
  };
  return (
    <section aria-label={t("Where the figures come from")} className="mb-4 grid gap-1.5">
      <h3 className="border-b border-line font-bold">{t("Where the figures come from")}</h3>
      {given.map(({ name, label }) => (
        <Choice
          key={name}
          beside
          label={label}
          options={SOURCES}
          value={known[name]}
          onChange={(source) => set(name, source)}
          disabled={disabled}
          absent={t("not said")}
        />
      ))}
    </section>
  );
}
