import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, take } from "../../api/client";
import { Button } from "../../primitives/Button";
import { TextField } from "../../primitives/Field";
import { askOrRecall } from "../../storage/kept";
import { GradeMark } from "../assessment";
import type { Grade } from "../assessment/GradeMark";
import { TrackRecord } from "../learning";
import { mayWrite, useSession } from "../session/useSession";
import { beginInspection } from "../inspection/begin";
import { BegunHere, useEnginesHere } from "./BegunHere";
import { Filters } from "./Filters";
import { FollowUps } from "./FollowUps";
import { ImportDrop } from "./ImportDrop";
import { useFound } from "./useFound";

/** The shop: what was inspected lately, and the engines it knows. */
export function ShopPage() {
  const { person } = useSession();
  const navigate = useNavigate();
  const writes = mayWrite(person);
  const found = useFound();
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
  const open = (engine: Parameters<typeof beginInspection>[0]) => void navigate(`/inspections/${beginInspection(engine)}`);
  const here = useEnginesHere().filter((one) => !engines.data?.some((other) => other.id === one.id));
  const trouble = found.error ?? engines.error;
  return (
    <div className="grid gap-5">
      {trouble && (
        <p role="alert" className="text-rust">
          {trouble.message}
        </p>
      )}
      <section>
        <div className="mb-2 flex items-center justify-between">
          <h1 className="text-xl font-bold">Inspections</h1>
          {writes && (
            <Button weight="main" onClick={() => void navigate("/engines/new")}>
              New engine
            </Button>
          )}
        </div>
        <BegunHere />
        <FollowUps />
        <Filters found={found} />
        {found.rows?.length === 0 && (
          <p className="sheet p-4 text-soft">
            {found.asking
              ? "No inspection fits all of that. Ask for less."
              : "None yet. Add an engine, or drop an inspection file here, and read its first plug."}
          </p>
        )}
        <ul className="sheet divide-y divide-line">
          {found.rows?.map((row) => (
            <li key={row.id}>
              <Link
                to={`/inspections/${row.id}`}
                className="grid grid-cols-[auto_1fr] items-center gap-x-3 px-3 py-2.5 hover:bg-wash sm:grid-cols-[auto_16rem_1fr_auto]"
              >
                <GradeMark grade={row.grade as Grade} />
                <span className="min-w-0">
                  <b className="block truncate">{row.title}</b>
                  <span className="caption">
                    {row.identifier} {row.by && `read by ${row.by}`}
                  </span>
                </span>
                <span className="col-span-2 text-sm sm:col-span-1">{row.verdict}</span>
                <time className="caption hidden sm:block">{row.date}</time>
              </Link>
            </li>
          ))}
        </ul>
        {found.more && (
          <Button className="mt-2 w-full" onClick={found.more}>
            More
          </Button>
        )}
      </section>
      <div className="grid gap-5 lg:grid-cols-[1fr_380px]">
        <section>
          <div className="mb-2 flex items-end justify-between gap-4">
            <h2 className="text-lg font-bold">Engines</h2>
            <div className="w-64">
              <TextField
                label="Find an engine"
                type="search"
                value={named}
                onChange={(event) => setNamed(event.target.value)}
              />
            </div>
          </div>
          {engines.data?.length === 0 && <p className="sheet p-4 text-soft">No engine is called that.</p>}
          <ul className="sheet divide-y divide-line">
            {[...here, ...(engines.data ?? [])].map((engine) => (
              <li key={engine.id} className="flex items-center gap-3 px-3 py-2">
                <span className="min-w-0 flex-1">
                  <b className="block truncate">{engine.title}</b>
                  <span className="caption">
                    {engine.identifier} {engine.data.layout}, {engine.data.cylinders} cylinders
                  </span>
                </span>
                {writes && (
                  <Button onClick={() => open(engine)}>
                    Inspect
                  </Button>
                )}
              </li>
            ))}
          </ul>
        </section>
        <div className="grid content-start gap-5">
          {writes && <ImportDrop />}
          <TrackRecord />
          <Link className="target w-fit text-teal underline" to="/calculators">
            Calculators: units, torque, blades, gap and voltage, dwell, premix, pressure
          </Link>
          <Link className="target w-fit text-teal underline" to="/rules">
            House rules: which school decides, prices, order of work
          </Link>
          <a className="target w-fit text-teal underline" href="/api/shop/archive" download>
            Everything the shop has, as a ZIP of open formats
          </a>
        </div>
      </div>
    </div>
  );
}
