import { t } from "../../language";
import { useEffect, useRef, type CSSProperties } from "react";
import type { Assessment, Document, Plan } from "../../api/client";
import { GRADE_WORDS, GradeMark } from "../assessment";
import { worked } from "../bench";
import { testOf } from "../compression/useCompressionTest";
import { FiringEnd } from "../plug";
import { answered, type Round } from "../round";

interface Props {
  plan: Plan;
  document: Document;
  assessment: Assessment;
  chosen: number;
  onChoose: (cylinder: number) => void;
  /** What is asked now: its stations say whether they were seen. */
  round: Round | undefined;
}

/** The engine from above, its front to the left, never more than a fifth of the window: every station says what it holds. */
export function EngineStrip({ plan, document, assessment, chosen, onChoose, round }: Props) {
  const strip = useRef<HTMLElement>(null);
  const dry = testOf(document, "dry");
  const touched = worked(document);
  const radial = document.engine.layout === "radial";
  const rows = [...new Set(plan.stations.map((one) => one.across))].sort((a, b) => a - b);
  useEffect(() => {
    const station = strip.current?.querySelector("[aria-pressed=true]");
    station?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [chosen]);
  const station = (number: number) => {
    const record = document.cylinders?.find((one) => one.number === number);
    const grade = assessment.cylinders.find((one) => one.number === number)?.grade ?? "U";
    const pressure = dry.reading(number);
    const apart = !touched.includes(number);
    const seen = round && answered(document, round, number);
    const told = [
      t("grade {{grade}}: {{GRADE_WORDS}}", { grade, GRADE_WORDS: GRADE_WORDS[grade] }),
      pressure ? `${pressure.value} ${pressure.unit}` : t("no pressure"),
      ...(record?.plug ? [] : [t("plug not read")]),
      ...(round && !apart ? [seen ? t("seen in this round") : t("not seen in this round")] : []),
      ...(apart ? [t("not part of this job")] : []),
    ];
    return (
      <button
        key={number}
        type="button"
        aria-pressed={number === chosen}
        aria-label={t("Cylinder {{number}}, {{told}}", { number, told: told.join(", ") })}
        onClick={() => onChoose(number)}
        className={`station @container ${apart ? "border-dashed opacity-60" : ""}`}
      >
        <span className="flex size-full items-center justify-center gap-1 @min-[7rem]:justify-start @min-[7rem]:gap-2 @min-[7rem]:px-1">
          <b className="text-lg leading-none @min-[7rem]:text-2xl">{number}</b>
          <FiringEnd plug={record?.plug ?? {}} className="hidden h-full max-h-11 min-h-0 @min-[4rem]:block" />
          <span className={`hidden min-w-0 flex-1 truncate text-left text-sm @min-[9rem]:block ${pressure ? "" : "caption italic"}`}>
            {apart ? t("not this job") : pressure ? `${pressure.value} ${pressure.unit}` : record?.plug ? t("no pressure") : t("not seen")}
          </span>
          <GradeMark grade={grade} className="size-5 shrink-0 @min-[7rem]:size-6" />
        </span>
        {seen && <i aria-hidden="true" className="seen absolute inset-x-2 bottom-0 h-1 rounded-t bg-teal" />}
      </button>
    );
  };
  // A radial from its front, number 1 on top.
  if (radial) {
    return (
      <section ref={strip} aria-label={t("Engine plan")} className="strip relative h-36 print:hidden">
        {plan.stations.map((one) => (
          <div
            key={one.cylinder}
            className="absolute h-9 w-16 sm:w-28"
            style={{ left: `${one.across * 100}%`, top: `${one.along * 100}%`, transform: `translate(-${one.across * 100}%, -${one.along * 100}%)` }}
          >
            {station(one.cylinder)}
          </div>
        ))}
      </section>
    );
  }
  // Two rows of a vee as they are, more of them as they share a fifth of the window.
  const high: CSSProperties | undefined = rows.length > 2 ? { height: `${15 / rows.length}vh` } : undefined;
  return (
    <section ref={strip} aria-label={t("Engine plan")} className="strip grid gap-1 overflow-x-auto print:hidden">
      {rows.map((across, index) => {
        const own = plan.stations.filter((one) => one.across === across).sort((a, b) => a.along - b.along);
        return (
          <div
            key={across}
            className={`flex gap-1 ${index > 0 && rows.length > 1 ? "pl-4 lg:pl-10" : rows.length > 1 ? "pr-4 lg:pr-10" : ""}`}
          >
            {own.map((one) => (
              <div key={one.cylinder} className="h-[2.9rem] min-w-11 flex-1 lg:h-[3.75rem]" style={high}>
                {station(one.cylinder)}
              </div>
            ))}
          </div>
        );
      })}
    </section>
  );
}
