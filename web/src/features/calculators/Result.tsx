import { t } from "../../language";
import type { Quantity } from "../../primitives/number";
import type { Answer, Calculator } from "./calculate";
import { figure, measured, stacked } from "./figures";

function isQuantity(value: unknown): value is Quantity {
  return typeof value === "object" && value !== null && "unit" in value && "value" in value;
}

function isRow(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === "object" && value !== null && !Array.isArray(value) && !isQuantity(value);
}

/** A value of an answer in words; two numbers are a range. */
function said(value: unknown): string {
  if (Array.isArray(value)) return value.map(said).join(value.length === 2 && typeof value[0] === "number" ? " to " : ", ");
  if (isQuantity(value)) return measured(value);
  if (typeof value === "number") return figure(value);
  if (typeof value === "boolean") return value ? "yes" : "no";
  return String(value).replaceAll("cannot-say", t("cannot say"));
}

interface Props {
  answer: Answer;
  calculator: Calculator;
}

/** What a calculator answered: figures large, lists below. */
export function Result({ answer, calculator }: Props) {
  const label = (name: string) => calculator.labels[name] ?? name;
  const lists = Object.entries(answer).filter(([, value]) => Array.isArray(value) && value.some(isRow));
  const plain = Object.entries(answer).filter(([name]) => !lists.some(([other]) => other === name) && name !== "warnings");
  return (
    <div className="grid gap-3" role="status">
      <dl className="grid gap-2">
        {plain.map(([name, value]) => (
          <div key={name}>
            <dt className="caption">{name === "quantity" ? t("Is") : label(name)}</dt>
            <dd className="text-2xl font-bold">{said(value)}</dd>
          </div>
        ))}
      </dl>
      {lists.map(([name, value]) => (
        <Rows key={name} name={label(name)} rows={value as readonly Readonly<Record<string, unknown>>[]} label={label} />
      ))}
    </div>
  );
}

interface RowsProps {
  name: string;
  rows: readonly Readonly<Record<string, unknown>>[];
  label: (name: string) => string;
}

function Rows({ name, rows, label }: RowsProps) {
  const columns = Object.keys(rows[0] ?? {}).filter((one) => one !== "code");
  return (
    <table className="w-full text-sm">
      <caption className="caption text-left">{name}</caption>
      <thead className={columns.length < 2 ? "sr-only" : ""}>
        <tr className="caption text-left">
          {columns.map((one) => (
            <th key={one}>{label(one)}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, index) => (
          <tr key={index} className={`border-b border-line ${index === 0 && columns.length > 1 ? "font-bold" : ""}`}>
            {columns.map((one) => (
              <td key={one}>{Array.isArray(row[one]) ? stacked(row[one].filter(isQuantity)) : said(row[one])}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
