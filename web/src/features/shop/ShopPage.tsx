import { t } from "../../language";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, take } from "../../api/client";
import { Button } from "../../primitives/Button";
import { TextField } from "../../primitives/Field";
import { usePageTitle } from "../../app/usePageTitle";
import { askOrRecall } from "../../storage/kept";
import { TrackRecord } from "../learning";
import { isOwner, mayWrite, useSession } from "../session/useSession";
import { accompanyTheFirst } from "../guide/accompanied";
import type { Known } from "../inspection/begin";
import { BeginQuestion } from "./BeginQuestion";
import { BegunHere, useEnginesHere } from "./BegunHere";
import { EngineRow } from "./EngineRow";
import { Filters } from "./Filters";
import { FollowUps, useFollowUps } from "./FollowUps";
import { ImportDrop } from "./ImportDrop";
import { InspectionRow } from "./InspectionRow";
import { useFound } from "./useFound";
import { useKeeping, type Kept } from "./useKeeping";

/** The shop: what was inspected lately, and the engines it knows. */
export function ShopPage() {
  const { person } = useSession();
  const navigate = useNavigate();
  const writes = mayWrite(person);
  const found = useFound();
  // A row does not move away under the finger: it is there once what stands above it is.
  const { settled } = useFollowUps();
  const rows = settled ? found.rows : undefined;
  const first = rows?.length === 0 && !found.asking && !found.error;
  useEffect(() => {
    if (first) accompanyTheFirst();
  }, [first]);
  const [named, setNamed] = useState("");
  const asked = useDeferredValue(named.trim());
  const engines = useQuery({
    queryKey: ["engines", asked],
    queryFn: () => {
      const ask = () => take(api.GET("/api/engines", { params: { query: { q: asked } } }));
      return asked ? ask() : askOrRecall("engines", ask);
    },
    placeholderData: keepPreviousData,
    staleTime: 0,
  });
  const [beginning, setBeginning] = useState<Known | undefined>();
  const keeping = useKeeping();
  const here = useEnginesHere().filter((one) => !engines.data?.some((other) => other.id === one.id));
  const known = [...here, ...(engines.data ?? [])];
  const trouble = found.error ?? engines.error ?? keeping.error;
  usePageTitle(person?.shop ?? t("The shop"));
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-5">
      {trouble && (
        <p role="alert" className="text-rust">
          {trouble.message}
        </p>
      )}
      <section>
        <div className="mb-2 flex items-center justify-between">
          <h1 className="text-xl font-bold">{t("Inspections")}</h1>
          {writes && (
            <Button weight="main" onClick={() => void navigate("/engines/new")}>
              {t("New engine")}
            </Button>
          )}
        </div>
        <BegunHere />
        <FollowUps />
        <Filters found={found} />
        {rows?.length === 0 && (
          <p className="sheet p-4 text-soft">
            {found.asking
              ? t("No inspection fits all of that. Ask for less.")
              : t("None yet. Add an engine, or drop an inspection file here, and read its first plug.")}
          </p>
        )}
        {keeping.last && <KeptLine last={keeping.last} onUndo={keeping.keep} />}
        <ul className="sheet divide-y divide-line">
          {rows?.map((row) => (
            <InspectionRow
              key={row.id}
              row={row}
              kept={found.wanted.kept || "shown"}
              writes={writes}
              onKeep={(kept) => keeping.keep({ id: row.id, kept })}
            />
          ))}
        </ul>
        {found.more && (
          <Button className="mt-2 w-full" onClick={found.more}>
            {t("More")}
          </Button>
        )}
      </section>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-5 lg:grid-cols-[minmax(0,1fr)_380px]">
        <section aria-label={t("Engines")}>
          <div className="mb-2 flex items-end justify-between gap-4">
            <h2 className="text-lg font-bold">{t("Engines")}</h2>
            <div className="w-64">
              <TextField
                label={t("Find an engine")}
                type="search"
                value={named}
                onChange={(event) => setNamed(event.target.value)}
              />
            </div>
          </div>
          {engines.data?.length === 0 && <p className="sheet p-4 text-soft">{t("No engine is called that.")}</p>}
          <ul className="sheet divide-y divide-line">
            {known.map((engine) => (
              <EngineRow key={engine.id} engine={engine} others={known} writes={writes} onInspect={() => setBeginning(engine)} />
            ))}
          </ul>
        </section>
        <div className="grid content-start gap-5">
          {writes && <ImportDrop />}
          <TrackRecord />
          <Link className="target w-fit text-teal underline" to="/due">
            {t("Due: what the engines want, month by month")}
          </Link>
          <Link className="target w-fit text-teal underline" to="/guide/story">
            {t("The guide: each step on a page")}
          </Link>
          <Link className="target w-fit text-teal underline" to="/training">
            {t("Practise: read plugs, find the fault, a class of cases")}
          </Link>
          <Link className="target w-fit text-teal underline" to="/calculators">
            {t("Calculators: units, torque, blades, gap and voltage, dwell, premix, pressure")}
          </Link>
          <Link className="target w-fit text-teal underline" to="/rules">
            {t("House rules: which school decides, prices, order of work")}
          </Link>
          <Link className="target w-fit text-teal underline" to="/people">
            {t("People and shop: who may do what, what stands on reports")}
          </Link>
          {writes && (
            <Link className="target w-fit text-teal underline" to="/clients">
              {t("Clients: whom the shop works for, and their engines")}
            </Link>
          )}
          <Link className="target w-fit text-teal underline" to="/me">
            {t("Your account: name, password, second factor")}
          </Link>
          {isOwner(person) && (
            <a className="target w-fit text-teal underline" href="/api/shop/archive" download>
              {t("Everything the shop has, as a ZIP of open formats")}
            </a>
          )}
        </div>
      </div>
      {beginning && <BeginQuestion engine={beginning} onClose={() => setBeginning(undefined)} />}
    </div>
  );
}

const DONE: Record<Kept, string> = {
  shown: t("Brought back."),
  archived: t("Put by: it is found among those put by."),
  removed: t("Deleted: it can be brought back for 30 days."),
};

interface KeptProps {
  last: { id: string; kept: Kept };
  onUndo: (wanted: { id: string; kept: Kept }) => void;
}

/** What became of the last inspection that was moved, with the way back. */
function KeptLine({ last, onUndo }: KeptProps) {
  return (
    <p role="status" className="mb-2 flex items-center gap-3 text-sm">
      {DONE[last.kept]}
      {last.kept !== "shown" && <Button onClick={() => onUndo({ id: last.id, kept: "shown" })}>{t("Undo")}</Button>}
    </p>
  );
}
