import { t } from "../../language";
import type { NewPlug } from "./fields";
import { millimetres } from "../record";

const SCALE = 5; // Drawn units to a millimetre.
const SEAT_Y = 74;
const HALF = 95;

interface Shape {
  seat?: NewPlug["seat"];
  thread_mm?: number;
  thread_length?: NewPlug["thread_length"];
  reach?: NewPlug["reach"];
}

interface Props {
  old: Shape;
  fresh: Shape;
  /** What the specification says stands in where nobody measured. */
  specified: Shape;
}

/** Old and new plug from the side, seats on one line, to the scale of the figures. */
export function PlugProfile({ old, fresh, specified }: Props) {
  const reach = fresh.reach && old.reach ? millimetres(fresh.reach) - millimetres(old.reach) : undefined;
  const told =
    reach === undefined
      ? t("drawn where figures were given")
      : Math.abs(reach) < 0.05
        ? t("reach alike")
        : t("the new one reaches {{reach}} mm {{part}}", { reach: Math.abs(reach).toFixed(1), part: reach > 0 ? "further" : "less" });
  return (
    <figure className="grid max-w-64 content-start gap-1">
      <svg viewBox="0 0 190 210" className="w-full" role="img" aria-label={t("Old plug and new plug, side by side: {{told}}", { told })}>
        <Side at={0} shape={old} specified={specified} />
        <Side at={HALF} shape={fresh} specified={specified} />
        <line x1="0" x2="190" y1={SEAT_Y} y2={SEAT_Y} stroke="var(--teal)" strokeDasharray="4 3" />
        <text x="2" y={SEAT_Y - 4} fontSize="9" fill="var(--soft)">
          {t("seat")}
        </text>
      </svg>
      <figcaption className="caption grid grid-cols-2 text-center">
        <span>{t("old")}</span>
        <span>{t("new")}</span>
        <span className="col-span-2">{told}</span>
      </figcaption>
    </figure>
  );
}

function Side({ at, shape, specified }: { at: number; shape: Shape; specified: Shape }) {
  const given = shape.reach ?? specified.reach;
  const reach = Math.min((given ? millimetres(given) : 12) * SCALE, 112);
  const wide = Math.min((shape.thread_mm ?? specified.thread_mm ?? 14) * SCALE * 0.62, 60);
  const length = shape.thread_length ? Math.min(millimetres(shape.thread_length) * SCALE, reach) : reach;
  const seat = shape.seat ?? specified.seat;
  const middle = at + HALF / 2;
  const left = middle - wide / 2;
  const known = shape.reach !== undefined;
  const end = SEAT_Y + reach;
  const threads = Array.from({ length: Math.floor(length / 6) }, (_, index) => end - 3 - index * 6);
  return (
    <g stroke="var(--ink)" strokeWidth="1.2">
      <rect x={middle - 7} y="4" width="14" height="34" rx="4" fill="var(--ceramic)" />
      <path d={`M${middle - 24} 38h48v22h-48z`} fill="var(--metal)" />
      {seat === "taper" ? (
        <path d={`M${middle - 20} 60h40L${left + wide} ${SEAT_Y + 6}H${left}z`} fill="var(--metal)" />
      ) : (
        <>
          <path d={`M${middle - 22} 60h44v${SEAT_Y - 66}h-44z`} fill="var(--metal)" />
          {seat === "gasket" && <rect x={middle - 23} y={SEAT_Y - 6} width="46" height="6" rx="3" fill="var(--ochre)" />}
        </>
      )}
      <rect
        x={left}
        y={SEAT_Y}
        width={wide}
        height={reach}
        fill="var(--metal)"
        fillOpacity={known ? 1 : 0.25}
        strokeDasharray={known ? undefined : "3 3"}
      />
      {threads.map((y) => (
        <line key={y} x1={left} x2={left + wide} y1={y} y2={y - 3} strokeWidth="0.8" />
      ))}
      <path d={`M${middle - 3} ${end}v6h6v-6`} fill="var(--ceramic)" />
      <path d={`M${left + 3} ${end}v12h${wide / 2 + 2}`} fill="none" strokeWidth="2.4" />
    </g>
  );
}
