import { t } from "../../language";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { askAgain } from "../../api/again";
import { importDocument, Refused, type Inspection } from "../../api/client";
import { Button } from "../../primitives/Button";
import { Histories, useHistories } from "./Histories";
import { unpacked } from "./unpacked";

/** One file of several, and what became of it. */
interface Outcome {
  name: string;
  inspection?: Inspection;
  refused?: Error;
}

/** Take inspection files in, dragged or chosen; each counts by itself, and what is wrong with one is named place by place. */
export function ImportDrop() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const chooser = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [done, setDone] = useState<{ outcomes: readonly Outcome[]; of: number } | undefined>();
  const taking = useMutation({
    mutationFn: async (given: readonly File[]) => {
      const outcomes: Outcome[] = [];
      const files = (await Promise.all(given.map(unpacked))).flat();
      if (files.length === 0) throw new Error(t("There is no inspection file in it."));
      for (const file of files) {
        setDone({ outcomes: [...outcomes], of: files.length });
        outcomes.push(await one(file));
      }
      setDone({ outcomes, of: files.length });
      return outcomes;
    },
    onSuccess: ([first, ...others]) => {
      void askAgain(queries, ["inspections"]);
      void askAgain(queries, ["engines"]);
      if (first?.inspection && others.length === 0) void navigate(`/inspections/${first.inspection.id}`);
    },
  });
  const reading = useHistories();
  const takeAll = (files: FileList | null) => {
    const table = [...(files ?? [])].find((one) => /\.(csv|tsv|xlsx)$/i.test(one.name));
    if (table) reading.mutate({ table });
    else if (files?.length) taking.mutate([...files]);
  };
  const refused = done?.outcomes.filter((one) => one.refused) ?? [];
  const taken = done?.outcomes.filter((one) => one.inspection) ?? [];
  return (
    <section
      aria-label={t("Import")}
      className={`sheet self-start border-2 border-dashed p-4 ${over ? "border-teal bg-wash" : ""}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        takeAll(event.dataTransfer.files);
      }}
    >
      <h2 className="text-lg font-bold">{t("Bring files in")}</h2>
      <p className="mb-2 text-sm text-soft">{t("Drop JSON files here, or a ZIP of them, or choose some; or a table (CSV, XLSX) of past inspections with engine and day in each row.")}</p>
      <input
        ref={chooser}
        type="file"
        multiple
        accept=".json,application/json,.zip,.csv,.tsv,.xlsx"
        className="sr-only"
        aria-label={t("Inspection file")}
        onChange={(event) => {
          takeAll(event.target.files);
          event.target.value = "";
        }}
      />
      <Button disabled={taking.isPending} onClick={() => chooser.current?.click()}>
        {taking.isPending && done ? t("Reading {{count}} of {{of}} ...", { count: done.outcomes.length + 1, of: done.of }) : t("Choose files")}
      </Button>
      <Histories reading={reading} onTake={taking.mutate} />
      {done && done.of > 1 && !taking.isPending && (
        <p role="status" className="mt-3 text-sm">
          {t("{{count}} of {{of}} imported. ", { count: taken.length, of: done.of })}
          {taken.slice(0, 5).map(({ name, inspection }) => (
            <Link key={name} className="mr-2 text-teal underline" to={`/inspections/${inspection?.id}`}>
              {name}
            </Link>
          ))}
        </p>
      )}
      {taking.error && (
        <p role="alert" className="mt-3 text-sm text-rust">
          {taking.error.message}
        </p>
      )}
      {refused.map(({ name, refused: error }) => (
        <Why key={name} name={name} error={error} several={(done?.of ?? 1) > 1} />
      ))}
    </section>
  );
}

async function one(file: File): Promise<Outcome> {
  try {
    return { name: file.name, inspection: await importDocument(file) };
  } catch (error) {
    return { name: file.name, refused: error instanceof Error ? error : new Error(String(error)) };
  }
}

interface WhyProps {
  name: string;
  error: Error | undefined;
  several: boolean;
}

function Why({ name, error, several }: WhyProps) {
  const problems = error instanceof Refused ? error.problems : [];
  return (
    <div role="alert" className="mt-3 text-sm">
      <p className="font-medium text-rust">
        {several && `${name}: `}
        {problems.length > 0 ? t("Nothing was imported. The file says:") : error?.message}
      </p>
      <ul className="mt-1 grid gap-1">
        {problems.map((one) => (
          <li key={`${one.path} ${one.value}`}>
            <code className="font-bold">{one.path || t("the whole file")}</code>{t(": expected {{expected}}", { expected: one.expected })}
            {one.value !== "None" && t(", found {{value}}", { value: one.value })}
          </li>
        ))}
      </ul>
    </div>
  );
}
