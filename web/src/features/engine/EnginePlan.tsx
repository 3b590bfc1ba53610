import type { Assessment, Document, Plan } from "../../api/client";
import { GRADE_WORDS, GradeMark } from "../assessment";
import { testOf } from "../compression/useCompressionTest";
import { FiringEnd } from "../plug";
import { Block } from "./Block";

interface Props {
  plan: Plan;
  document: Document;
  assessment: Assessment;
  chosen: number;
  onChoose: (cylinder: number) => void;
}

/** The engine from above, its front to the left; every station says what it holds. */
export function EnginePlan({ plan, document, assessment, chosen, onChoose }: Props) {
  const dry = testOf(document, "dry");
  return (
    <Block plan={plan} radial={document.engine.layout === "radial"}>
      {(number) => {
        const record = document.cylinders?.find((one) => one.number === number);
        const grade = assessment.cylinders.find((one) => one.number === number)?.grade ?? "U";
        const pressure = dry.reading(number);
        const missing = [!record?.plug && "plug not read", !pressure && "no pressure"].filter(Boolean);
        return (
          <button
            type="button"
            aria-pressed={number === chosen}
            aria-label={`Cylinder ${number}, grade ${grade}: ${GRADE_WORDS[grade]}. ${missing.join(", ")}`}
            onClick={() => onChoose(number)}
            className="flex h-full w-full flex-col items-center gap-0.5 rounded-lg border-2 border-line bg-sheet px-1 py-1 aria-pressed:border-teal aria-pressed:shadow-[0_0_0_2px_var(--teal)]"
          >
            <span className="flex w-full items-center justify-between px-1">
              <b className="text-lg leading-none">{number}</b>
              <GradeMark grade={grade} className="size-6" />
            </span>
            <FiringEnd plug={record?.plug ?? {}} className="min-h-0 w-full flex-1" />
            <span className={`text-sm ${pressure ? "" : "caption italic"}`}>
              {pressure ? `${pressure.value} ${pressure.unit}` : "not read"}
            </span>
          </button>
        );
      }}
    </Block>
  );
}
