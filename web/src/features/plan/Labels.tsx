import { t } from "../../language";
import type { Document } from "../../api/client";
import { worked } from "../bench";

/** Labels to print and cut out, one for each coil or lead: they go back where they came from. */
export function Labels({ document }: { document: Document }) {
  const { engine } = document;
  const leads = engine.ignition === "distributor" || engine.ignition === "magneto";
  const numbers = worked(document);
  const bankOf = (number: number) => engine.banks?.find((bank) => bank.cylinders.includes(number))?.name;
  return (
    <section aria-label={leads ? t("Labels for the leads") : t("Labels for coils and leads")}>
      <h3 className="mb-1 border-b border-line font-bold">
        {leads ? t("Labels for the leads") : t("Labels for coils and leads")}
      </h3>
      <ul className="flex flex-wrap gap-1">
        {numbers.map((number) => (
          <li
            key={number}
            className="grid w-24 justify-items-center border border-dashed border-soft py-0.5 print:border-black"
          >
            <b className="text-xl leading-none">{number}</b>
            <span className="caption">
              {leads ? t("lead") : t("coil")}
              {bankOf(number) && `, ${bankOf(number)}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
