import { LineEntry } from "../../primitives/LineEntry";
import { readNumber } from "../../primitives/useQuantityEntry";
import { TESTS, type Rules, type Test } from "./rules";

type Given = NonNullable<Rules["minutes"]>;

interface Props {
  minutes: Given;
  onChange: (minutes: Given) => void;
  disabled: boolean;
}

/** How long each test takes here: the next best test is weighed by the minute. */
export function Minutes({ minutes, onChange, disabled }: Props) {
  const set = (test: Test, text: string) => {
    const next = { ...minutes, [test]: readNumber(text) };
    onChange(Object.fromEntries(Object.entries(next).filter(([, value]) => value !== undefined)) as Given);
  };
  return (
    <details>
      <summary className="target cursor-pointer text-teal underline">
        Minutes for each test, where this house is quicker or slower
      </summary>
      <div className="mt-2 grid grid-cols-2 items-end gap-2 sm:grid-cols-3">
        {TESTS.map((test) => (
          <LineEntry
            key={test}
            label={`Minutes: ${test.replaceAll("-", " ")}`}
            inputMode="decimal"
            value={String(minutes[test] ?? "")}
            onCommit={(text) => set(test, text)}
            disabled={disabled}
          />
        ))}
      </div>
    </details>
  );
}
