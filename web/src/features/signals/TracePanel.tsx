import { t } from "../../language";
import { useQuery } from "@tanstack/react-query";
import { scaleLinear } from "d3-scale";
import { useId, useState, type MouseEvent } from "react";
import { readTrace, type Schemas } from "../../api/client";
import { Button } from "../../primitives/Button";
import { SelectField } from "../../primitives/Field";
import type { Recorder } from "../record";

type Trace = Schemas["Trace"];

interface Mark {
  cylinder: number;
  second: number;
}

const WIDE = 600;
const HIGH = 150;

interface Props {
  recorder: Recorder;
  inspection: string;
  /** A trace from a file or captured live; undefined once it was kept. */
  file: File | undefined;
  onFile: (file: File | undefined) => void;
}

/** A cranking trace: drawn, its rises compared, kept once a person has confirmed it. */
export function TracePanel({ recorder, inspection, file, onFile }: Props) {
  const { document, onRecord, disabled } = recorder;
  const id = useId();
  const [marked, setMarked] = useState("");
  const [mark, setMark] = useState<(Mark & { of: File }) | undefined>();
  const own = mark && mark.of === file ? mark : undefined;
  const { data: trace, error } = useQuery({
    queryKey: ["trace", inspection, file?.name, file?.lastModified, file?.size, own?.cylinder, own?.second],
    queryFn: () => readTrace(inspection, file as File, own),
    enabled: file !== undefined,
    retry: false,
    staleTime: Infinity,
  });
  const numbers = Array.from({ length: document.engine.cylinders }, (_, index) => String(index + 1));
  const known = document.tests?.relative ?? [];
  const placed = trace?.shares.every((share) => share.cylinder !== null) ?? false;
  const onMark = (second: number) => {
    if (file && marked) setMark({ cylinder: Number(marked), second, of: file });
  };
  const keep = () => {
    if (!trace) return;
    onRecord(
      trace.shares.flatMap(({ cylinder, share, spread }) => [
        [`/tests/relative/${cylinder}/share`, Math.round(share * 1000) / 10] as const,
        [`/tests/relative/${cylinder}/spread`, Math.round(spread * 1000) / 10] as const,
        [`/tests/relative/${cylinder}/instrument`, file?.name ?? "trace"] as const,
      ]),
    );
    onFile(undefined);
  };
  return (
    <section aria-label={t("Cranking trace")} className="grid gap-2">
      <h3 className="border-b border-line font-bold">{t("Relative compression from a cranking trace")}</h3>
      <p className="caption">
        {t("CSV with time [s] and current [A] or pressure [bar]. It compares the cylinders with each other and measures none.")}
      </p>
      {known.length > 0 && (
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(120px,1fr))] gap-1 text-sm">
          {known.map((one) => (
            <li key={one.cylinder}>
              {t("cylinder {{cylinder}}:", { cylinder: one.cylinder })}{" "}<b>{one.share} %</b> <span className="caption">{t("from")}{" "}{one.instrument}</span>
            </li>
          ))}
        </ul>
      )}
      <label htmlFor={id} className="target grid min-h-10 w-fit cursor-pointer place-items-center rounded-md border border-line bg-sheet px-3">
        {t("Read a trace")}
      </label>
      <input
        id={id}
        type="file"
        accept=".csv,text/csv"
        className="sr-only"
        disabled={disabled}
        onChange={(event) => {
          onFile(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
      {file && error && (
        <p role="alert" className="text-sm text-rust">
          {error.message}
        </p>
      )}
      {file && trace && (
        <div className="grid gap-2">
          <Drawn trace={trace} onMark={onMark} asking={marked !== ""} />
          <div className="grid grid-cols-[12rem_1fr] items-end gap-2">
            <SelectField
              label={t("A mark of cylinder")}
              value={marked}
              empty={t("choose, then tap its rise")}
              options={numbers.map((value) => ({ value, label: value }))}
              onChange={setMarked}
            />
            <p className="caption">
              {placed ? t("Each rise has its cylinder.") : t("Which rise is whose? Choose a cylinder and tap where it was on compression.")}
            </p>
          </div>
          <ol className="grid gap-1">
            {trace.shares.map((share) => (
              <li key={share.place} className="grid grid-cols-[6rem_1fr_6rem] items-center gap-2 text-sm">
                <span>{share.cylinder === null ? t("rise {{place}}", { place: share.place + 1 }) : t("cylinder {{cylinder}}", { cylinder: share.cylinder })}</span>
                <span className="h-4 bg-wash" aria-hidden="true">
                  <i className="block h-full bg-teal" style={{ width: `${Math.min(share.share, 1) * 100}%` }} />
                </span>
                <b className="text-right">
                  {Math.round(share.share * 100)} % <span className="caption">±{Math.round(share.spread * 100)}</span>
                </b>
              </li>
            ))}
          </ol>
          <Button disabled={disabled || !placed} onClick={keep}>
            {t("Keep these figures")}
          </Button>
        </div>
      )}
    </section>
  );
}

function Drawn({ trace, onMark, asking }: { trace: Trace; onMark: (second: number) => void; asking: boolean }) {
  const x = scaleLinear([trace.seconds[0] ?? 0, trace.seconds.at(-1) ?? 1], [0, WIDE]);
  const y = scaleLinear([Math.min(...trace.values), Math.max(...trace.values)], [HIGH - 4, 4]);
  const points = trace.seconds.map((second, at) => `${x(second).toFixed(1)},${y(trace.values[at] ?? 0).toFixed(1)}`);
  const mark = (event: MouseEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    onMark(x.invert(((event.clientX - box.left) / box.width) * WIDE));
  };
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className={`w-full rounded-md border border-line bg-paper ${asking ? "cursor-crosshair" : ""}`}
      role="img"
      aria-label={t("{{quantity}} against time, {{seconds}} seconds", { quantity: trace.quantity, seconds: ((trace.seconds.at(-1) ?? 0) - (trace.seconds[0] ?? 0)).toFixed(1) })}
      onClick={mark}
    >
      <polyline points={points.join(" ")} fill="none" stroke="var(--teal)" strokeWidth="1.2" />
    </svg>
  );
}
