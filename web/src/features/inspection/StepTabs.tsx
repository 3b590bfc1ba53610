import { t } from "../../language";
import { Tabs } from "radix-ui";
import { useEffect, useRef, type ReactNode } from "react";
import type { Document } from "../../api/client";
import { worked } from "../bench";
import { partsOf, roundOf, type Part, type Place } from "../hand";
import { answered } from "../round";

interface Props {
  place: Place;
  document: Document;
  children: ReactNode;
  /** Stands beside the step. */
  aside: ReactNode;
}

const TAB =
  "target min-h-10 whitespace-nowrap border-b-3 border-transparent px-2 text-[0.9375rem] font-medium text-soft xl:px-[0.7rem] data-[state=active]:border-teal data-[state=active]:text-ink";
const PART = "target min-h-9 whitespace-nowrap rounded-md px-2.5 text-sm data-[state=active]:bg-wash data-[state=active]:font-bold";

/** The steps in the order of the work, each with how far it has come, and the parts of the one that is open. */
export function StepTabs({ place, document, children, aside }: Props) {
  const { step, part, go } = place;
  const parts = partsOf(step, document);
  const tabs = useRef<HTMLDivElement>(null);
  useEffect(() => {
    tabs.current?.querySelector("[aria-selected=true]")?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [step.id]);
  const body = (
    <Tabs.Content value={step.id} className="p-2.5 lg:p-3">
      <h2 className="sr-only">{part.label}</h2>
      {parts.length > 1 ? (
        <Tabs.Root value={part.id} onValueChange={(next) => go(next)}>
          <Tabs.List className="relative mb-2 flex gap-1 overflow-x-auto border-b border-line pb-1 print:hidden" aria-label={t("Parts of {{label}}", { label: step.label })}>
            {parts.map((one) => (
              <Tabs.Trigger key={one.id} value={one.id} className={PART}>
                {one.label}
                <Progress parts={[one]} document={document} />
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <Tabs.Content value={part.id} className="-ml-2.5 pl-2.5">{children}</Tabs.Content>
        </Tabs.Root>
      ) : (
        children
      )}
    </Tabs.Content>
  );
  return (
    <Tabs.Root value={step.id} onValueChange={(next) => go(place.steps.find((one) => one.id === next)?.parts[0]?.id ?? next)} className="grid gap-x-3 gap-y-2 lg:grid-cols-[minmax(0,1fr)_340px]">
      <Tabs.List
        ref={tabs}
        className="relative flex overflow-x-auto border-b border-line bg-sheet px-1 lg:col-span-2 lg:rounded-md lg:border print:hidden"
        aria-label={t("What to record")}
      >
        {place.steps.map((one) => (
          <Tabs.Trigger key={one.id} value={one.id} className={TAB} aria-keyshortcuts={`Shift+${one.key.toUpperCase()}`}>
            {one.label}
            <Progress parts={partsOf(one, document)} document={document} />
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <div className="min-w-0 bg-sheet lg:rounded-md lg:border lg:border-line print:border-0">{body}</div>
      {aside}
    </Tabs.Root>
  );
}

/** "5/8", where anything was recorded; nothing where nothing was. */
function Progress({ parts, document }: { parts: readonly Part[]; document: Document }) {
  const order = worked(document);
  const rounds = parts.flatMap((one) => roundOf(one, document) ?? []);
  const done = order.filter((number) => rounds.some((round) => answered(document, round, number))).length;
  if (done === 0) return null;
  return (
    <span className="caption ml-1 text-teal">
      <span className="sr-only">{t(", {{done}} of {{count}}", { done, count: order.length })}</span>
      <span aria-hidden="true">{done === order.length ? "✓" : `${done}/${order.length}`}</span>
    </span>
  );
}
