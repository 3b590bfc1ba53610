import { t } from "../../language";
import { Button } from "../Button";
import { writeNumber } from "./readNumber";
import type { Quantity } from "./useQuantityEntry";

interface Props<U extends string> {
  id: string;
  error: string | undefined;
  question: readonly Quantity<U>[] | undefined;
  onChoose: (value: Quantity<U>) => void;
}

/** What is wrong with a number, or the question which of two was meant; under its field, tied to it. */
export function NumberNote<U extends string>({ id, error, question, onChoose }: Props<U>) {
  if (question) {
    const units = new Set(question.map((one) => one.unit)).size > 1 || question.length === 1;
    return (
      <div id={id} role="alert" className="mt-1 flex flex-wrap items-center gap-1 text-sm">
        {t("Which?")}
        {question.map((one) => (
          <Button key={`${one.value} ${one.unit}`} onClick={() => onChoose(one)}>
            {writeNumber(one.value)}
            {units && ` ${one.unit}`}
          </Button>
        ))}
      </div>
    );
  }
  if (!error) return null;
  return (
    <p id={id} className="mt-1 text-sm text-rust">
      {error}
    </p>
  );
}
