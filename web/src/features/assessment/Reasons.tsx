import { Accordion } from "radix-ui";
import type { Assessment, CylinderAssessment } from "../../api/client";
import { GRADE_WORDS, GradeMark } from "./GradeMark";
import { percent, unbroken, useWords } from "./words";

type Fault = CylinderAssessment["faults"][number];

const SHOWN = 5;

/** The size of an argument: bits as a bar, for to the right, against to the left. */
function Weighing({ because }: { because: Fault["because"] }) {
  const most = Math.max(2, ...because.map((one) => Math.abs(one.weight)));
  return (
    <ul className="grid gap-1 text-sm">
      {because.map((one) => {
        const speaks = one.weight > 0 ? "for" : "against";
        const share = (Math.abs(one.weight) / most) * 50;
        return (
          <li key={`${one.path} ${one.finding}`} className="grid grid-cols-[3.2rem_1fr_90px] items-center gap-1">
            <b className="caption">{speaks}</b>
            <span>{unbroken(one.finding)}</span>
            <span className="relative h-4" title={`${one.weight.toFixed(1)} bits ${speaks}`}>
              <i className="absolute inset-y-0 left-1/2 border-l border-soft" />
              <i
                className={`absolute inset-y-0.5 ${one.weight > 0 ? "bg-rust" : "bg-teal"}`}
                style={one.weight > 0 ? { left: "50%", width: `${share}%` } : { right: "50%", width: `${share}%` }}
              />
              <span className="sr-only">{one.weight.toFixed(1)} bits</span>
            </span>
          </li>
        );
      })}
    </ul>
  );
}

interface Props {
  cylinder: CylinderAssessment;
  assessment: Assessment;
}

/** Why a cylinder is graded as it is: its likeliest faults, each opening to for and against. */
export function Reasons({ cylinder, assessment }: Props) {
  const words = useWords();
  const named = cylinder.faults.slice(0, SHOWN);
  const pairs = assessment.pairs.filter(
    (pair) => pair.cylinders.includes(cylinder.number) && pair.probability >= 0.05,
  );
  const first = named.find((fault) => fault.because.length > 0);
  return (
    <section className="sheet p-3" aria-label={`Why, cylinder ${cylinder.number}`}>
      <header className="mb-2 flex items-center gap-2">
        <GradeMark grade={cylinder.grade} />
        <h2 className="font-bold">Cylinder {cylinder.number}</h2>
        <span className="caption">{GRADE_WORDS[cylinder.grade]}</span>
        <span className="caption ml-auto">plug: {cylinder.plug_action.replace("-", " ")}</span>
      </header>
      {cylinder.rivals.length > 1 && (
        <p className="mb-1 text-sm">
          <b>Cannot yet be told apart:</b> {cylinder.rivals.join("; ")}.
        </p>
      )}
      {cylinder.odd.map((odd) => (
        <p key={odd.statistic} className="mb-1 text-sm text-ochre">
          Odd one out: {odd.text}
        </p>
      ))}
      {pairs.map((pair) => (
        <p key={pair.cylinders.join("-")} className="mb-1 flex justify-between border-b border-line pb-1 text-sm">
          <span>gasket leaking between {pair.cylinders.join(" and ")}</span>
          <b>{percent(pair.probability)}</b>
        </p>
      ))}
      <Accordion.Root
        key={cylinder.number}
        type="multiple"
        defaultValue={first ? [first.fault] : []}
        className="grid gap-1"
      >
        {named.map((fault) => {
          const raised = fault.probability >= 1.5 * words.prior(fault.fault);
          return (
            <Accordion.Item key={fault.fault} value={fault.fault}>
              <Accordion.Header>
                <Accordion.Trigger className="group target flex min-h-9 w-full items-center gap-2 text-left">
                  <span className="relative h-2.5 w-16 shrink-0 overflow-hidden rounded-full bg-wash" aria-hidden="true">
                    <i
                      className={`absolute inset-y-0 left-0 ${raised ? "bg-rust" : "bg-soft"}`}
                      style={{ width: `${Math.max(fault.probability * 100, 2)}%` }}
                    />
                  </span>
                  <span className={`w-16 shrink-0 text-right ${raised ? "font-bold" : "text-soft"}`}>
                    {percent(fault.probability)}
                  </span>
                  <span className={raised ? "font-medium" : "text-soft"}>{words.fault(fault.fault)}</span>
                  <span className="caption ml-auto group-data-[state=open]:hidden">why</span>
                </Accordion.Trigger>
              </Accordion.Header>
              <Accordion.Content className="pb-2 pl-2">
                {fault.because.length > 0 ? (
                  <Weighing because={fault.because.slice(0, 8)} />
                ) : (
                  <p className="text-sm text-soft">
                    Nothing recorded speaks for or against it; this is how often it occurs anyway.
                  </p>
                )}
              </Accordion.Content>
            </Accordion.Item>
          );
        })}
      </Accordion.Root>
      {cylinder.unseen.length > 0 && (
        <p className="caption mt-2 border-t border-line pt-2">Missing: {cylinder.unseen.join("; ")}.</p>
      )}
    </section>
  );
}
