import { t } from "../../language";
import { Accordion } from "radix-ui";
import type { Assessment, CylinderAssessment } from "../../api/client";
import { FaultReasons } from "./FaultReasons";
import { RAISED, useWords, type Words } from "./words";

const SHOWN_FROM = 0.05;

type Shared = Assessment["shared"][number];

/** What it is that may be at fault, in words. */
function called({ scope, name, fault, cylinders }: Shared, words: Words): string {
  const what = words.fault(fault, scope === "coil" ? "cylinder" : "engine");
  if (scope === "engine") return what;
  const place = { bank: t("bank {{name}}", { name }), feed: `${name}, ${cylinders.join(" and ")}`, coil: name, leads: t("leads of {{name}}", { name }) }[scope];
  return `${place}: ${what}`;
}

/** Everything suspected of what cylinders share, a gasket between two too, the likeliest first. */
function suspected({ shared, pairs }: Assessment, words: Words) {
  const parts = shared.map((one) => ({
    ...one,
    id: `${one.scope} ${one.name} ${one.fault}`,
    label: called(one, words),
    prior: words.prior(one.fault, "engine"),
  }));
  const between = pairs.map((pair) => ({
    ...pair,
    id: pair.cylinders.join("-"),
    label: t("gasket leaking between {{cylinders}}", { cylinders: pair.cylinders.join(" and ") }),
    prior: words.prior(pair.fault, "pair"),
  }));
  return [...parts, ...between]
    .filter((one) => one.probability >= SHOWN_FROM && one.probability >= RAISED * one.prior)
    .sort((one, other) => other.probability - one.probability);
}

/** Whether something shared is likelier than anything that is this cylinder's alone. */
export function sharedIsLikelier({ shared, pairs }: Assessment, own: CylinderAssessment | undefined): boolean {
  const chances = [...shared, ...pairs].filter((one) => own && one.cylinders.includes(own.number)).map((one) => one.probability);
  return Math.max(0, ...chances) > (own?.faults[0]?.probability ?? 0);
}

/** What several cylinders have in common, with the reasons; nothing where nothing is suspected. */
export function SharedReasons({ assessment }: { assessment: Assessment }) {
  const words = useWords();
  const listed = suspected(assessment, words);
  const first = listed[0];
  if (!first) return null;
  return (
    <section className="sheet p-3" aria-label={t("What cylinders share")}>
      <h2 className="mb-1 font-bold">{t("What cylinders share")}</h2>
      <Accordion.Root key={`${first.id} ${first.because.length > 0}`} type="multiple" defaultValue={[first.id]} className="grid gap-1">
        {listed.map((one) => (
          <FaultReasons
            key={one.id}
            id={one.id}
            label={one.label}
            probability={one.probability}
            prior={one.prior}
            because={one.because}
          />
        ))}
      </Accordion.Root>
    </section>
  );
}
