import { Accordion } from "radix-ui";
import type { Assessment, CylinderAssessment } from "../../api/client";
import { FaultReasons } from "./FaultReasons";
import { RAISED, useWords, type Words } from "./words";

const SHOWN_FROM = 0.05;

/** Everything suspected of the engine, a bank or a gasket, the likeliest first. */
function suspected(assessment: Assessment, words: Words) {
  const { engine, banks, pairs } = assessment;
  const banked = banks.flatMap((bank) =>
    bank.faults.map((fault) => ({
      ...fault,
      id: `${bank.name} ${fault.fault}`,
      label: `bank ${bank.name}: ${words.fault(fault.fault, "bank")}`,
      prior: words.prior(fault.fault, "bank"),
    })),
  );
  const ofBanks = new Set(banked.filter((one) => one.probability >= 0.5).map((one) => one.fault));
  const whole = engine.faults
    .filter((fault) => !ofBanks.has(fault.fault))
    .map((fault) => ({
      ...fault,
      id: fault.fault,
      label: words.fault(fault.fault, "engine"),
      prior: words.prior(fault.fault, "engine"),
    }));
  const between = pairs.map((pair) => ({
    ...pair,
    id: pair.cylinders.join("-"),
    label: `gasket leaking between ${pair.cylinders.join(" and ")}`,
    prior: words.prior(pair.fault, "pair"),
  }));
  return [...whole, ...banked, ...between]
    .filter((one) => one.probability >= SHOWN_FROM && one.probability >= RAISED * one.prior)
    .sort((one, other) => other.probability - one.probability);
}

/** Whether something shared is likelier than anything that is this cylinder's alone. */
export function sharedIsLikelier(assessment: Assessment, own: CylinderAssessment | undefined): boolean {
  const chances = [
    ...assessment.engine.faults.map((fault) => fault.probability),
    ...assessment.pairs.filter((pair) => own && pair.cylinders.includes(own.number)).map((pair) => pair.probability),
  ];
  return Math.max(0, ...chances) > (own?.faults[0]?.probability ?? 0);
}

/** What several cylinders have in common, with the reasons; nothing where nothing is suspected. */
export function SharedReasons({ assessment }: { assessment: Assessment }) {
  const words = useWords();
  const listed = suspected(assessment, words);
  const first = listed[0];
  if (!first) return null;
  return (
    <section className="sheet p-3" aria-label="What cylinders share">
      <h2 className="mb-1 font-bold">What cylinders share</h2>
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
