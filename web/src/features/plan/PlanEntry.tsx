import { t } from "../../language";
import type { Plan, Schemas } from "../../api/client";
import { Button } from "../../primitives/Button";
import { Choice } from "../../primitives/Choice";
import type { Photos } from "../photos";
import { OrderEntry, worked } from "../bench";
import { FieldEntry, options, StepEntry, type Field, type Recorder } from "../record";
import { Damage } from "./Damage";
import { Labels } from "./Labels";
import { Pieces } from "./Pieces";
import { Removed } from "./Removed";

type WorkOrder = Schemas["WorkOrder"];
type Step = WorkOrder["steps"][number];

const ACCESS = options("easy", "fair", "awkward");
const CONSENT: Field = {
  kind: "choice",
  path: "/work/consent",
  label: t("The owner has agreed to"),
  options: options("looking-only", "plugs-out", "all-tests"),
};
const AGREED_BY: Field = { kind: "text", path: "/work/consent_by", label: t("Agreed by") };

const TOOLS: readonly Field[] = [
  { kind: "text", path: "/engine/tools/socket", label: t("Socket and drive") },
  { kind: "text", path: "/engine/tools/extension", label: t("Extension, swivel, the way in") },
  { kind: "text", path: "/engine/tools/adapter", label: t("Gauge adapter: thread and length") },
];

interface Props {
  recorder: Recorder;
  order: WorkOrder;
}

interface PlanProps extends Props {
  plan: Plan;
  photos: Photos;
}

/** What to mind, bring and do on this engine, in order; ticked off as it is done. */
export function PlanEntry({ recorder, order, plan, photos }: PlanProps) {
  return (
    <div className="grid gap-x-6 gap-y-4 xl:grid-cols-2 print:grid-cols-2">
      <div className="grid content-start gap-4">
        <section className="grid gap-2" aria-label={t("Before you start")}>
          <h3 className="border-b border-line font-bold">{t("Before you start")}</h3>
          <ul className="grid gap-1 border-l-4 border-ochre pl-2 text-sm">
            {order.cautions.map((caution) => (
              <li key={caution}>{caution}</li>
            ))}
          </ul>
          <FieldEntry field={CONSENT} recorder={recorder} />
          <FieldEntry field={AGREED_BY} recorder={recorder} />
        </section>
        <Figures order={order} />
        <section aria-label={t("To bring")}>
          <h3 className="mb-1 border-b border-line font-bold">{t("To bring")}</h3>
          <ul className="list-inside list-disc text-sm">
            {order.tools.map((tool) => (
              <li key={tool}>{tool}</li>
            ))}
            {Object.entries(recorder.document.engine.tools ?? {}).map(([what, text]) => (
              <li key={what} className="hidden print:list-item">
                {what}: {text}
              </li>
            ))}
          </ul>
        </section>
        <section aria-label={t("What fits this engine")} className="print:hidden">
          <h3 className="mb-1 border-b border-line font-bold">{t("What fits this engine, kept for next time")}</h3>
          <div className="grid gap-2">
            {TOOLS.map((field) => (
              <FieldEntry key={field.path} field={field} recorder={recorder} />
            ))}
          </div>
        </section>
        <Removed recorder={recorder} />
        <Pieces recorder={recorder} />
        <Damage recorder={recorder} photos={photos} />
        <Labels document={recorder.document} />
      </div>
      <div className="grid content-start gap-4">
        <OrderEntry recorder={recorder} plan={plan} />
        <Steps recorder={recorder} order={order} />
        <Cylinders recorder={recorder} order={order} />
        <Button className="print:hidden" onClick={() => window.print()}>
          {t("Print this page")}
        </Button>
      </div>
    </div>
  );
}

function Figures({ order }: { order: WorkOrder }) {
  const { gap, torque, torque_reused, plug } = order.figures;
  const rows = [
    [t("Plug"), plug],
    [t("Gap"), gap],
    [t("Torque, new"), torque],
    [t("Torque, reused"), torque_reused],
  ] as const;
  return (
    <section aria-label={t("Figures at hand")}>
      <h3 className="mb-1 border-b border-line font-bold">{t("Figures at hand")}</h3>
      <dl className="grid grid-cols-[8rem_1fr] text-sm">
        {rows.map(([name, figure]) => (
          <div key={name} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd className={figure ? "font-medium" : "italic text-soft"}>{figure || t("not given; see Story, Maker's figures")}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

function Steps({ recorder, order }: Props) {
  const left = Math.round(order.minutes);
  const open = order.steps.filter((step) => step.state === "open" || step.state === "barred");
  const settled = order.steps.filter((step) => !open.includes(step));
  return (
    <section aria-label={t("Steps")}>
      <h3 className="mb-1 flex justify-between border-b border-line font-bold">
        {t("In this order")}{" "}<span className="caption">{t("about {{left}} min left", { left })}</span>
      </h3>
      <p className="mb-2 text-sm">
        <b>{order.school.title}:</b> {order.school.why}.
      </p>
      <ol className="grid gap-1">
        {open.map((step) => (
          <StepRow key={step.id} step={step} recorder={recorder} />
        ))}
      </ol>
      {settled.length > 0 && (
        <details className="mt-2" open={open.length === 0}>
          <summary className="target cursor-pointer text-soft">{t("Settled: {{count}}", { count: settled.length })}</summary>
          <ol className="grid gap-1">
            {settled.map((step) => (
              <StepRow key={step.id} step={step} recorder={recorder} />
            ))}
          </ol>
        </details>
      )}
      {order.acts.length > 0 && <Acts acts={order.acts} />}
    </section>
  );
}

/** What comes next by what was found: the same list as beside the verdict, with its minutes. */
function Acts({ acts }: { acts: WorkOrder["acts"] }) {
  return (
    <>
      <h4 className="mt-3 font-bold">{t("Then, by what was found")}</h4>
      <ol className="grid gap-1">
        {acts.map((act) => (
          <li key={act.test} className="grid grid-cols-[1fr_auto] gap-2 border-b border-line pb-1">
            <span>
              <b>{act.title}</b>
              <span className="caption block">{act.why}</span>
            </span>
            <span className="caption">{t("{{minutes}} min", { minutes: Math.round(act.minutes) })}</span>
          </li>
        ))}
      </ol>
    </>
  );
}

const SHUT = { barred: t("not now: what was found forbids it"), closed: t("proved: no longer needed") } as const;

function StepRow({ step, recorder }: { step: Step; recorder: Recorder }) {
  if (step.state === "barred" || step.state === "closed") {
    return (
      <li className="border-b border-line pb-1 text-soft">
        {step.title}
        <b className={`caption block ${step.state === "barred" ? "text-rust" : ""}`}>{SHUT[step.state]}</b>
      </li>
    );
  }
  return (
    <li className="border-b border-line pb-1">
      <StepEntry
        recorder={recorder}
        path={`/work/steps/${step.id}`}
        title={step.title}
        note={t("{{minutes}} min{{part}}; {{why}}", { minutes: Math.round(step.minutes), part: step.timed ? t(", as it took on this engine") : "", why: step.why })}
        recorded={step.state === "done"}
      />
    </li>
  );
}

function Cylinders({ recorder, order }: Props) {
  return (
    <section aria-label={t("Order of the cylinders")}>
      <h3 className="mb-1 border-b border-line font-bold">{t("Which cylinder first")}</h3>
      <p className="hidden text-sm print:block">{worked(recorder.document).join(", ")}</p>
      <ol className="grid gap-2 print:hidden">
        {order.order.map((place) => (
          <li key={place.cylinder}>
            <Choice
              beside
              label={t("Cylinder {{cylinder}}{{why}}", { cylinder: place.cylinder, why: place.why && `: ${place.why}` })}
              options={ACCESS}
              value={recorder.document.cylinders?.find((one) => one.number === place.cylinder)?.access}
              onChange={(access) => recorder.onRecord([[`/cylinders/${place.cylinder}/access`, access]])}
              disabled={recorder.disabled}
              absent={t("how easy to reach?")}
            />
          </li>
        ))}
      </ol>
    </section>
  );
}
