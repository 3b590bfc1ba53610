import { t } from "../../language";
import { Tags } from "../../primitives/Tags";
import { SelectField } from "../../primitives/Field";
import { useFaults } from "../assessment";
import { FieldEntry, type Field, type Recorder } from "../record";

const WHAT: Field = {
  kind: "text",
  path: "/work/first_guess/text",
  label: t("What you think it is"),
  hint: t("Before the figures: it is kept, and compared with what was found."),
};

/** The inspector's own first guess: which cylinders, and what. */
export function FirstGuess({ recorder }: { recorder: Recorder }) {
  const { document, onRecord, disabled } = recorder;
  const faults = useFaults();
  const numbers = Array.from({ length: document.engine.cylinders }, (_, index) => String(index + 1));
  return (
    <section aria-label={t("Your first guess")} className="grid gap-2.5">
      <h3 className="border-b border-line font-bold">{t("Your first guess")}</h3>
      <Tags
        label={t("Which cylinders")}
        options={numbers.map((value) => ({ value, label: value }))}
        value={document.work?.first_guess?.cylinders?.map(String)}
        onChange={(chosen) => onRecord([["/work/first_guess/cylinders", chosen?.map(Number)]])}
        disabled={disabled}
        absent={t("not said")}
      />
      <SelectField
        label={t("Of the faults that are weighed, the likeliest")}
        value={document.work?.first_guess?.fault ?? ""}
        empty={t("not said")}
        options={faults}
        disabled={disabled}
        onChange={(fault) => onRecord([["/work/first_guess/fault", fault || undefined]])}
      />
      <FieldEntry field={WHAT} recorder={recorder} />
    </section>
  );
}
