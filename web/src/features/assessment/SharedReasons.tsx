import { t } from "../../language";
import { Accordion } from "radix-ui";
import type { Assessment } from "../../api/client";
import { FaultReasons } from "./FaultReasons";
import { useWords, type Words } from "./words";

type Shared = Assessment["shared"][number];

/** What it is that may be at fault, in words. */
function called({ scope, name, fault, cylinders }: Shared, words: Words): string {
  const what = words.fault(fault, scope === "coil" ? "cylinder" : "engine");
  if (scope === "engine") return what;
  const place = { bank: t("bank {{name}}", { name }), feed: `${name}, ${cylinders.join(" and ")}`, coil: name, leads: t("leads of {{name}}", { name }) }[scope];
  return `${place}: ${what}`;
}

/** What is claimed of what cylinders share, a gasket between two too, in the order of the claims. */
function suspected({ engine, shared, pairs }: Assessment, words: Words) {
  const parts = shared.map((one) => ({
    ...one,
    id: `${one.scope} ${one.name} ${one.fault}`,
    label: called(one, words),
    prior: words.prior(one.fault, "engine"),
  }));
  const between = pairs.map((pair) => ({
    ...pair,
    scope: "pair",
    name: "",
    id: pair.cylinders.join("-"),
    label: t("gasket leaking between {{cylinders}}", { cylinders: pair.cylinders.join(" and ") }),
    prior: words.prior(pair.fault, "pair"),
  }));
  return engine.claims.flatMap((claim) =>
    [...parts, ...between].filter(
      (one) =>
        claim.faults.includes(one.fault) &&
        (claim.scope === "somewhere" || (claim.scope === one.scope && claim.cylinders.join() === one.cylinders.join())),
    ),
  );
}

/** Whether what is told first of a cylinder is something shared. */
export function sharedComesFirst({ engine }: Assessment, cylinder: number): boolean {
  const first = engine.claims.find((claim) => claim.cylinders.includes(cylinder));
  return first !== undefined && first.scope !== "cylinder";
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
            claimed
          />
        ))}
      </Accordion.Root>
    </section>
  );
}
