import { useState } from "react";
import type { Inspection } from "../../api/client";
import { Button } from "../../primitives/Button";
import { Choice } from "../../primitives/Choice";
import { TextField } from "../../primitives/Field";
import { FieldEntry, options, type Field, type Recorder } from "../record";

type WorkOrder = Inspection["work_order"];
type Step = WorkOrder["steps"][number];

const ACCESS = options("easy", "fair", "awkward");
const STATES = [
  { value: "done", label: "done" },
  { value: "skipped", label: "skipped" },
] as const;
const CONSENT: Field = {
  kind: "choice",
  path: "/work/consent",
  label: "The owner has agreed to",
  options: options("looking-only", "plugs-out", "all-tests"),
};
const AGREED_BY: Field = { kind: "text", path: "/work/consent_by", label: "Agreed by" };

interface Props {
  recorder: Recorder;
  order: WorkOrder;
}

/** What to mind, bring and do on this engine, in order; ticked off as it is done. */
export function PlanEntry({ recorder, order }: Props) {
  return (
    <div className="grid gap-x-6 gap-y-4 xl:grid-cols-2 print:grid-cols-2">
      <div className="grid content-start gap-4">
        <section className="grid gap-2" aria-label="Before you start">
          <h3 className="border-b border-line font-bold">Before you start</h3>
          <ul className="grid gap-1 border-l-4 border-ochre pl-2 text-sm">
            {order.cautions.map((caution) => (
              <li key={caution}>{caution}</li>
            ))}
          </ul>
          <FieldEntry field={CONSENT} recorder={recorder} />
          <FieldEntry field={AGREED_BY} recorder={recorder} />
        </section>
        <Figures order={order} />
        <section aria-label="To bring">
          <h3 className="mb-1 border-b border-line font-bold">To bring</h3>
          <ul className="list-inside list-disc text-sm">
            {order.tools.map((tool) => (
              <li key={tool}>{tool}</li>
            ))}
          </ul>
        </section>
        <Removed recorder={recorder} />
      </div>
      <div className="grid content-start gap-4">
        <Steps recorder={recorder} order={order} />
        <Cylinders recorder={recorder} order={order} />
        <Button className="print:hidden" onClick={() => window.print()}>
          Print this page
        </Button>
      </div>
    </div>
  );
}

function Figures({ order }: { order: WorkOrder }) {
  const { gap, torque, torque_reused, plug } = order.figures;
  const rows = [
    ["Plug", plug],
    ["Gap", gap],
    ["Torque, new", torque],
    ["Torque, reused", torque_reused],
  ] as const;
  return (
    <section aria-label="Figures at hand">
      <h3 className="mb-1 border-b border-line font-bold">Figures at hand</h3>
      <dl className="grid grid-cols-[8rem_1fr] text-sm">
        {rows.map(([name, figure]) => (
          <div key={name} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd className={figure ? "font-medium" : "italic text-soft"}>{figure || "not given; see History"}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

function Steps({ recorder, order }: Props) {
  const left = Math.round(order.minutes);
  return (
    <section aria-label="Steps">
      <h3 className="mb-1 flex justify-between border-b border-line font-bold">
        In this order <span className="caption">about {left} min left</span>
      </h3>
      <p className="mb-2 text-sm">
        <b>{order.school.title}:</b> {order.school.why}.
      </p>
      <ol className="grid gap-1">
        {order.steps.map((step) => (
          <StepRow key={step.id} step={step} recorder={recorder} />
        ))}
      </ol>
    </section>
  );
}

function StepRow({ step, recorder }: { step: Step; recorder: Recorder }) {
  const own = recorder.document.work?.steps?.find((one) => one.id === step.id)?.state;
  return (
    <li className="border-b border-line pb-1">
      <Choice
        beside
        label={step.title}
        options={STATES}
        value={own}
        onChange={(state) => recorder.onRecord([[`/work/steps/${step.id}/state`, state]])}
        disabled={recorder.disabled}
        absent="open"
        note={
          <span className="caption block">
            {Math.round(step.minutes)} min; {step.why}
          </span>
        }
      />
    </li>
  );
}

function Cylinders({ recorder, order }: Props) {
  return (
    <section aria-label="Order of the cylinders">
      <h3 className="mb-1 border-b border-line font-bold">Which cylinder first</h3>
      <ol className="grid gap-2">
        {order.order.map((place) => (
          <li key={place.cylinder}>
            <Choice
              beside
              label={`Cylinder ${place.cylinder}${place.why && `: ${place.why}`}`}
              options={ACCESS}
              value={recorder.document.cylinders?.find((one) => one.number === place.cylinder)?.access}
              onChange={(access) => recorder.onRecord([[`/cylinders/${place.cylinder}/access`, access]])}
              disabled={recorder.disabled}
              absent="how easy to reach?"
            />
          </li>
        ))}
      </ol>
    </section>
  );
}

/** What was unclipped or taken off, last first, ticked on the way back. */
function Removed({ recorder }: { recorder: Recorder }) {
  const { document, onRecord, disabled } = recorder;
  const [what, setWhat] = useState("");
  const removed = [...(document.work?.removed ?? [])].reverse();
  const open = removed.filter((one) => !one.back).length;
  const add = () => {
    onRecord([[`/work/removed/part-${Date.now().toString(36)}/what`, what.trim()]]);
    setWhat("");
  };
  return (
    <section aria-label="Taken off">
      <h3 className="mb-1 flex justify-between border-b border-line font-bold">
        Taken off, last first <span className="caption">{open} still off</span>
      </h3>
      <ul className="grid gap-1">
        {removed.map((one) => (
          <li key={one.id}>
            <label className="target flex min-h-9 items-center gap-2">
              <input
                type="checkbox"
                className="size-5 accent-teal"
                checked={one.back === true}
                disabled={disabled}
                onChange={(event) => onRecord([[`/work/removed/${one.id}/back`, event.target.checked]])}
              />
              <span className={one.back ? "text-soft line-through" : ""}>{one.what}</span>
              <span className="caption ml-auto">{one.back ? "back" : "off"}</span>
            </label>
          </li>
        ))}
      </ul>
      <div className="mt-1 grid grid-cols-[1fr_auto] items-end gap-2 print:hidden">
        <TextField
          label="Unclipped or taken off"
          value={what}
          disabled={disabled}
          onChange={(event) => setWhat(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Enter" && what.trim()) add();
          }}
        />
        <Button disabled={disabled || !what.trim()} onClick={add}>
          Note it
        </Button>
      </div>
    </section>
  );
}
