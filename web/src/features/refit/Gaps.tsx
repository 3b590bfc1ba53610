import { t } from "../../language";
import { useState, type KeyboardEvent } from "react";
import { Choice } from "../../primitives/Choice";
import type { Document } from "../../api/client";
import { inWorkOrder, worked } from "../bench";
import { QuantityEntry, type Quantity } from "../../primitives/number";
import { FieldEntry, LENGTH_UNITS, meant, startingUnit, type Entries, type Field, type LengthUnit, type Recorder } from "../record";
import { BladeFinder } from "./BladeFinder";
import type { Fitting, Sheet } from "./fields";
import type { Stack } from "./useStacks";

const WAYS = [
  { value: "gap", label: t("by one blade or wire") },
  { value: "pair", label: t("by a go / no-go pair") },
] as const;
type Way = (typeof WAYS)[number]["value"];
const ENTRIES: Record<Way, readonly (readonly [Measured, string])[]> = {
  gap: [["gap", t("Gap")]],
  pair: [
    ["gap_passes", t("Thickest that passes")],
    ["gap_refuses", t("Thinnest that does not")],
  ],
};
const VERDICTS: Record<Fitting["gap"], string> = {
  in: "in",
  out: "out",
  "cannot-say": t("cannot say"),
  unmeasured: t("not measured"),
};

const ACCEPTED: Field = { kind: "text", path: "/refit/cylinders/{n}/accepted", label: t("Goes in as it is, because") };

type Measured = "gap" | "gap_passes" | "gap_refuses";
type Length = Quantity<LengthUnit>;

/** What each of the job measures, those left out that were measured another way. */
function measured(document: Document, field: Measured): readonly (readonly [number, Length | undefined])[] {
  return worked(document).flatMap((number) => {
    const plug = document.refit?.cylinders?.find((one) => one.cylinder === number)?.plug;
    const otherwise = field === "gap" ? (plug?.gap_passes ?? plug?.gap_refuses ?? plug?.gap_blades) : plug?.gap;
    return otherwise ? [] : [[number, plug?.[field] as Length | undefined] as const];
  });
}

/** What most of the set measure; nothing where no two agree. */
function ofAll(document: Document, field: Measured): Length | undefined {
  const values = measured(document, field).flatMap(([, value]) => (value ? [value] : []));
  const alike = (one: Length) => values.filter((other) => other.value === one.value && other.unit === one.unit).length;
  const most = values.toSorted((a, b) => alike(b) - alike(a))[0];
  return most && alike(most) > 1 ? most : undefined;
}

/** One figure for the set: those that say otherwise by themselves keep it. */
function alike(document: Document, field: Measured, value: Length | undefined): Entries {
  const before = ofAll(document, field);
  return measured(document, field)
    .filter(([, own]) => own === undefined || (own.value === before?.value && own.unit === before.unit))
    .map(([number]) => [`/refit/cylinders/${number}/plug/${field}`, value] as const);
}

interface Props {
  recorder: Recorder;
  sheet: Sheet;
}

/** Enter goes on to the next field: eight gaps are typed straight down. */
function toNext(event: KeyboardEvent<HTMLUListElement>) {
  if (event.key !== "Enter" || !(event.target instanceof HTMLInputElement)) return;
  const fields = [...event.currentTarget.querySelectorAll<HTMLInputElement>("input[inputmode]")];
  fields[fields.indexOf(event.target) + 1]?.select();
}

/** The gap of every plug as it goes in, each measured, none taken from the box. */
export function Gaps({ recorder, sheet }: Props) {
  const [way, setWay] = useState<Way>("gap");
  const { document, cylinder, onRecord, disabled, problem } = recorder;
  const unit = (sheet.aim?.unit ?? startingUnit(document, "/refit/cylinders/{n}/plug/gap", LENGTH_UNITS, recorder.measures)) as LengthUnit;
  const doubted = (typed: Quantity<LengthUnit>) => meant("/gap", typed, LENGTH_UNITS) as readonly Quantity<LengthUnit>[];
  const take = (stack: Stack) => {
    const base = `/refit/cylinders/${cylinder}/plug`;
    onRecord([
      [`${base}/gap_blades`, stack.blades],
      [`${base}/gap`, undefined],
    ]);
  };
  return (
    <div className="grid gap-x-6 gap-y-4 xl:grid-cols-2">
      <section aria-label={t("Gap of each plug")} className="grid content-start gap-2">
        <h3 className="border-b border-line font-bold">
          {sheet.aim ? t("Aim at {{value}} {{unit}}", { value: sheet.aim.value, unit: sheet.aim.unit }) : t("No gap is specified; see Story")}
        </h3>
        <Choice label={t("Measured")} options={WAYS} value={way} onChange={(next) => setWay(next ?? way)} />
        <ul className="grid gap-2" onKeyDown={toNext}>
          <li className="grid grid-cols-[1.6rem_1fr] items-start gap-x-2 border-b border-line pb-2">
            <b className="pt-5 text-sm">{t("all")}</b>
            <div className="grid grid-cols-2 gap-2">
              {ENTRIES[way].map(([field, label]) => (
                <QuantityEntry<LengthUnit>
                  key={field}
                  label={t("{{label}}, the set", { label })}
                  name={`set ${field}`}
                  units={LENGTH_UNITS}
                  fallback={unit}
                  meant={doubted}
                  value={ofAll(document, field)}
                  onChange={(value) => onRecord(alike(document, field, value))}
                  disabled={disabled}
                  absent=""
                />
              ))}
              {way === "gap" && <p className="caption self-end pb-2">{t("each measured; one that differs is typed below")}</p>}
            </div>
          </li>
          {inWorkOrder(document, sheet.cylinders, (one) => one.cylinder).map((one) => {
            const plug = document.refit?.cylinders?.find((other) => other.cylinder === one.cylinder)?.plug;
            return (
              <li key={one.cylinder} className="grid grid-cols-[1.6rem_1fr] items-start gap-x-2 border-b border-line pb-2">
                <b className="pt-5 text-lg">{one.cylinder}</b>
                <div className="grid gap-1">
                  <div className="grid grid-cols-2 gap-2">
                    {ENTRIES[way].map(([field, label]) => (
                      <QuantityEntry<LengthUnit>
                        key={field}
                        label={`${label}, ${one.cylinder}`}
                        name={`/refit/cylinders/${one.cylinder}/plug/${field}`}
                        units={LENGTH_UNITS}
                        fallback={unit}
                        meant={doubted}
                        value={plug?.[field] as Quantity<LengthUnit> | undefined}
                        onChange={(value) =>
                          onRecord([
                            [`/refit/cylinders/${one.cylinder}/plug/${field}`, value],
                            ...(plug?.gap_blades ? [[`/refit/cylinders/${one.cylinder}/plug/gap_blades`, undefined] as const] : []),
                          ])
                        }
                        disabled={disabled}
                        error={problem(`/refit/cylinders/${one.cylinder}/plug/${field}`)}
                        absent=""
                      />
                    ))}
                    {way === "gap" && <GapVerdict fitting={one} />}
                  </div>
                  {way === "pair" && <GapVerdict fitting={one} />}
                  {one.gap === "out" && <FieldEntry field={ACCEPTED} recorder={{ ...recorder, cylinder: one.cylinder }} />}
                  {one.slips
                    .filter((slip) => slip.path.includes("/plug/"))
                    .map((slip) => (
                      <p key={slip.path} className="border-l-4 border-ochre pl-2 text-sm">
                        {slip.text}
                      </p>
                    ))}
                </div>
              </li>
            );
          })}
        </ul>
        <p className="caption">
          {t("Blade flat, light drag. On a hollowed old electrode a flat blade reads too small, a wire does not. Fine-wire tips are checked, not levered.")}
        </p>
      </section>
      <div className="grid content-start gap-4">
        <BladeFinder target={sheet.aim ?? undefined} onTake={disabled ? undefined : take} taking={t("Set {{cylinder}} with it", { cylinder })} />
        <Volts sheet={sheet} />
      </div>
    </div>
  );
}

function GapVerdict({ fitting }: { fitting: Fitting }) {
  const mark = { in: "text-teal", out: "text-rust", "cannot-say": "text-ochre", unmeasured: "text-soft italic" }[fitting.gap];
  return (
    <p className="self-end pb-2 text-sm">
      <b className={mark}>{VERDICTS[fitting.gap]}</b> {fitting.accepted ? t("accepted") : fitting.change}
      {fitting.unverified.includes("gap") && <span className="caption">{" "}{t("limits not the maker's")}</span>}
      {fitting.gap !== "unmeasured" && <span className="caption block">{fitting.gap_text}</span>}
    </p>
  );
}

/** Why a weak coil wants a small gap, and why worn plugs miss under load first. */
function Volts({ sheet }: { sheet: Sheet }) {
  if (!sheet.volts) return null;
  const { coil_kv, rows } = sheet.volts;
  return (
    <section aria-label={t("What the gap wants")}>
      <h3 className="border-b border-line font-bold">{t("What the gap asks of the coil")}</h3>
      <table className="w-full text-sm">
        <thead>
          <tr className="caption text-left">
            <th>{t("gap")}</th>
            <th>{t("light load")}</th>
            <th>{t("full load")}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.gap}>
              <td>{row.gap}</td>
              {[row.light, row.full].map((volts, index) => (
                <td key={index} className={volts > coil_kv ? "font-bold text-rust" : ""}>
                  {t("{{volts}} kV", { volts })}{volts > coil_kv && t(", more than it has")}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="caption">
        {t("A coil of this kind gives about {{coil_kv}} kV. By Paschen's law for air between even electrodes: take the direction, not the last digit. Sharp or hot electrodes want less.", { coil_kv })}
      </p>
    </section>
  );
}
