import { t } from "../../language";
import type { ReactNode } from "react";
import type { Plan } from "../../api/client";

interface Props {
  plan: Plan;
  radial: boolean;
  /** What stands at a cylinder's station. */
  children: (cylinder: number) => ReactNode;
  label?: string;
  /** Numbers only, as a preview. */
  compact?: boolean;
}

// Four side by side, staggered too, fit a phone without scrolling.
const STATION = { row: 128, wide: 77 };
const SINGLE_ROW = { row: 168, wide: 77 };
const RADIAL = { row: 128, wide: 104 };
const COMPACT = { row: 66, wide: 66 };

/** The block in plan, front to the left: stations where the cylinders really sit. */
export function Block({ plan, radial, children, label = t("Engine plan"), compact = false }: Props) {
  const rows = [...new Set(plan.stations.map((station) => station.across))].sort((a, b) => a - b);
  const { row: high, wide } = compact ? COMPACT : radial ? RADIAL : rows.length === 1 ? SINGLE_ROW : STATION;
  const alongs = plan.stations.map((station) => station.along);
  const longest = Math.max(...rows.map((row) => plan.stations.filter((s) => s.across === row).length));
  const first = Math.min(...alongs);
  const span = Math.max(Math.max(...alongs) - first, 0.001);
  const slots = radial ? 5 : longest + (rows.length > 1 ? 0.25 : 0);
  const height = radial ? 3.4 * high : rows.length * (high + 10);
  const width = slots * wide;
  return (
    <section className="sheet overflow-x-auto p-2 pl-7" aria-label={label}>
      <div className="relative" style={{ height, minWidth: width, maxWidth: slots * (compact ? wide : 200) }}>
        <span className="caption absolute top-1/2 -left-6 -translate-y-1/2 -rotate-90 whitespace-nowrap">
          {t("front")}
        </span>
        {!radial && (
          <svg className="absolute inset-0 size-full" preserveAspectRatio="none" viewBox="0 0 100 100" aria-hidden="true">
            <line x1="0" x2="100" y1="50" y2="50" stroke="var(--line)" strokeDasharray="3 1" vectorEffect="non-scaling-stroke" />
          </svg>
        )}
        {plan.stations.map((station) => {
          const left = radial
            ? station.across * (width - wide)
            : span < 0.01
              ? 0
              : ((station.along - first) / span) * (100 - 100 / slots);
          const top = radial ? station.along * (height - high) : rows.indexOf(station.across) * (high + 10);
          return (
            <div
              key={station.cylinder}
              className="absolute p-1"
              style={{
                left: radial ? left : `${left}%`,
                top,
                height: high,
                width: radial ? wide : `${100 / slots}%`,
              }}
            >
              {children(station.cylinder)}
            </div>
          );
        })}
      </div>
    </section>
  );
}
