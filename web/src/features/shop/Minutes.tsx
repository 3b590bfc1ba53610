import { t } from "../../language";
import { NumberField } from "../../primitives/number";
import { TESTS, type Rules, type Test } from "./rules";

type Given = NonNullable<Rules["minutes"]>;

interface Props {
  minutes: Given;
  onChange: (minutes: Given) => void;
  disabled: boolean;
}

/** How long each test takes here: the next best test is weighed by the minute. */
export function Minutes({ minutes, onChange, disabled }: Props) {
  const set = (test: Test, number: number | undefined) => {
    const next = { ...minutes, [test]: number };
    onChange(Object.fromEntries(Object.entries(next).filter(([, value]) => value !== undefined)) as Given);
  };
  return (
    <details>
      <summary className="target cursor-pointer text-teal underline">
        {t("Minutes for each test, where this house is quicker or slower")}
      </summary>
      <div className="mt-2 grid grid-cols-2 items-end gap-2 sm:grid-cols-3">
        {TESTS.map((test) => (
          <NumberField
            key={test}
            label={t("Minutes: {{test}}", { test: test.replaceAll("-", " ") })}
            value={minutes[test]}
            onChange={(number) => set(test, number)}
            disabled={disabled}
          />
        ))}
      </div>
    </details>
  );
}
