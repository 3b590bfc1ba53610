import { t } from "../../language";
import { Button } from "../Button";
import { writeNumber } from "./readNumber";

interface Props {
  id: string;
  error: string | undefined;
  question: readonly [number, number] | undefined;
  onChoose: (value: number) => void;
}

/** What is wrong with a number, or the question which of two was meant; under its field, tied to it. */
export function NumberNote({ id, error, question, onChoose }: Props) {
  if (question) {
    return (
      <div id={id} role="alert" className="mt-1 flex flex-wrap items-center gap-1 text-sm">
        {t("Which?")}
        {question.map((value) => (
          <Button key={value} onClick={() => onChoose(value)}>
            {writeNumber(value)}
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
