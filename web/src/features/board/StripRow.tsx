import { t } from "../../language";
import { useState } from "react";
import type { Schemas } from "../../api/client";

export type Strip = Schemas["Strip"];

interface Props {
  strip: Strip;
  /** Cylinders in the order they stand in, a group to a bank. */
  groups: readonly (readonly number[])[];
  chosen: number;
  /** The cylinders of this job. */
  job: readonly number[];
  onChoose: (cylinder: number) => void;
}

const HIGH = 72;

/** Figures of one kind side by side: the band behind them, each school's line, the odd ones marked. */
export function StripRow({ strip, groups, chosen, job, onChoose }: Props) {
  const [looked, setLooked] = useState<number | undefined>();
  const at = (value: number) => `${(Math.max(value - strip.low, 0) / (strip.high - strip.low)) * 100}%`;
  const absent = (number: number) => (job.includes(number) ? t("not recorded") : t("not part of this job"));
  const [low, high] = strip.band ?? [];
  const told = strip.marks.find((mark) => mark.cylinder === (looked ?? chosen));
  return (
    <section aria-label={strip.label} className="grid gap-x-3 border-b border-line py-2 sm:grid-cols-[10.5rem_1fr]">
      <div className="min-w-0">
        <h3 className="font-bold leading-tight">{strip.label}</h3>
        {strip.pattern && <p className="text-sm font-medium text-rust">{t("odd: {{pattern}}", { pattern: strip.pattern })}</p>}
        {strip.lines.length > 0 && (
          <ul className="caption leading-tight">
            {strip.lines.map((line, index) => (
              <li key={line.label}>
                {"abcde"[index]} {line.label}: {Number(line.value.toPrecision(3))}
              </li>
            ))}
          </ul>
        )}
        {strip.ends[0] && (
          <p className="caption">
            {t("{{ends}} below,", { ends: strip.ends[0] })}{" "}{strip.ends[1]}{" "}{t("above")}
          </p>
        )}
      </div>
      <div className="min-w-0">
        <div className="relative flex gap-4">
          {groups.map((group) => (
            <div key={group.join()} className="relative flex flex-1 gap-1" style={{ height: HIGH }}>
              {low !== undefined && high !== undefined && (
                <i aria-hidden="true" className="absolute inset-x-0 bg-wash" style={{ bottom: at(low), top: `calc(100% - ${at(high)})` }} />
              )}
              {strip.lines.map((line, index) => (
                <i
                  key={line.label}
                  aria-hidden="true"
                  className="absolute inset-x-0 border-t border-dashed border-soft not-italic"
                  style={{ bottom: at(line.value) }}
                >
                  <span className="caption absolute right-0 -top-2 bg-sheet px-0.5 leading-none">{"abcde"[index]}</span>
                </i>
              ))}
              {group.map((number) => {
                const mark = strip.marks.find((one) => one.cylinder === number);
                const odd = (mark?.odd.length ?? 0) > 0;
                return (
                  <button
                    key={number}
                    type="button"
                    className="relative flex min-w-0 flex-1 flex-col items-center justify-end"
                    aria-label={t("Cylinder {{number}}: {{part}}{{part2}}", { number, part: mark ? `${mark.shown}; ${mark.basis}` : absent(number), part2: odd ? t("; odd: {{odd}}", { odd: mark?.odd.join(", ") }) : "" })}
                    onPointerEnter={() => setLooked(number)}
                    onPointerLeave={() => setLooked(undefined)}
                    onFocus={() => setLooked(number)}
                    onBlur={() => setLooked(undefined)}
                    onClick={() => onChoose(number)}
                  >
                    {mark ? (
                      <i
                        className={`w-3/5 max-w-9 ${odd ? "border-2 border-rust bg-rust" : "bg-teal"} ${number === chosen ? "outline-2 outline-offset-1 outline-ink" : ""}`}
                        style={{ height: at(mark.value) }}
                      />
                    ) : (
                      <span className="caption italic">—</span>
                    )}
                  </button>
                );
              })}
            </div>
          ))}
        </div>
        <p className="caption min-h-5 truncate">
          {told
            ? t("Cylinder {{cylinder}}: {{part}}", { cylinder: told.cylinder, part: [told.shown, told.basis, ...told.odd].join("; ") })
            : t("Cylinder {{looked}}: {{looked2}}", { looked: looked ?? chosen, looked2: absent(looked ?? chosen) })}
        </p>
      </div>
    </section>
  );
}
