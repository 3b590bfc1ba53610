import { t } from "../../language";
import { ToggleGroup } from "radix-ui";
import { TOGGLE } from "../../primitives/Choice";
import { at, valueAt, type Recorder } from "../record";
import { CylinderSection } from "./CylinderSection";
import { testId, type Escape } from "./findings";

interface Place {
  value: Escape;
  label: string;
  /** Where it is heard or seen. */
  heard: string;
  /** On the drawing, in per cent. */
  spot: string;
}

// Where the words stand on the drawing: beside what they name.
const PLACES: readonly Place[] = [
  { value: "intake", label: t("intake"), heard: t("hiss at the carburettor: intake valve"), spot: "left-0 top-0" },
  { value: "exhaust", label: t("exhaust"), heard: t("hiss at the tailpipe: exhaust valve"), spot: "right-0 top-0" },
  { value: "coolant", label: t("coolant"), heard: t("bubbles in the coolant: gasket or crack"), spot: "left-0 top-[44%]" },
  { value: "neighbour", label: t("neighbour"), heard: t("out of the next plug hole: gasket between"), spot: "right-0 top-[44%]" },
  { value: "crankcase", label: t("crankcase"), heard: t("hiss at the oil filler: rings"), spot: "left-1/2 -translate-x-1/2 bottom-0" },
];

/** Where the air escapes, tapped on a section of the cylinder; each leak is drawn as it is named. */
export function Escapes({ recorder }: { recorder: Recorder }) {
  const { document, cylinder, onRecord, disabled } = recorder;
  const path = at(`/tests/leakdown/${testId(document)}/readings/{n}/escapes`, cylinder);
  const value = valueAt(document, path) as readonly Escape[] | undefined;
  const change = (next: Escape[]) => {
    const added = next.find((word) => !value?.includes(word));
    const kept = added === "none" ? [added] : next.filter((word) => added === undefined || word !== "none");
    onRecord([[path, kept.length ? kept : undefined]]);
  };
  const told = PLACES.filter((place) => value?.includes(place.value));
  return (
    <section aria-label={t("Where the air escapes")} className="grid content-start gap-2 lg:w-60">
      <h3 className="flex justify-between border-b border-line font-bold">
        {t("Where the air escapes")}
        <span className="caption font-normal italic">{value === undefined ? t("not listened for") : ""}</span>
      </h3>
      <ToggleGroup.Root
        type="multiple"
        aria-label={t("Where the air of cylinder {{cylinder}} escapes", { cylinder })}
        disabled={disabled}
        value={[...(value ?? [])]}
        onValueChange={(next) => change(next as Escape[])}
        className="grid gap-2"
      >
        <div className="relative mx-auto w-full max-w-sm">
          <CylinderSection twoStroke={document.engine.cycle === "two-stroke"} escapes={value ?? []} />
          {PLACES.map((place) => (
            <ToggleGroup.Item key={place.value} value={place.value} className={`${TOGGLE} absolute ${place.spot}`}>
              {place.label}
            </ToggleGroup.Item>
          ))}
        </div>
        <ToggleGroup.Item value="none" className={`${TOGGLE} mx-auto w-fit`}>
          {t("listened everywhere: none")}
        </ToggleGroup.Item>
      </ToggleGroup.Root>
      <p className="caption min-h-5">
        {told.length ? told.map((place) => place.heard).join("; ") : t("Tap what hisses or bubbles.")}
      </p>
    </section>
  );
}
