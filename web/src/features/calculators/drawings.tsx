import { t } from "../../language";
import type { ReactNode } from "react";
import type { Quantity } from "../../primitives/number";
import { millimetres } from "../record";
import type { Answer } from "./calculate";

type Values = Readonly<Record<string, unknown>>;

/** A length in millimetres, where it was given as one. */
function length(values: Values, name: string): number | undefined {
  const given = values[name] as Quantity | undefined;
  return given && typeof given === "object" && typeof given.value === "number" ? millimetres(given) : undefined;
}

function number(values: Values, name: string): number | undefined {
  const given = values[name];
  return typeof given === "number" && Number.isFinite(given) ? given : undefined;
}

const WIDE = 260;
const METAL = { fill: "var(--metal)", stroke: "var(--ink)" };
const Words = ({ x, y, children }: { x: number; y: number; children: ReactNode }) => (
  <text x={x} y={y} fontSize="11" fill="var(--soft)">
    {children}
  </text>
);

/** Two electrodes and what goes between them, a hundred units to a millimetre. */
function Gap({ millimetre, blades, words }: { millimetre: number; blades: readonly number[]; words: string }) {
  const scale = Math.min(100, 90 / Math.max(millimetre, 0.1));
  const high = millimetre * scale;
  return (
    <>
      <rect x="20" y={60 - high / 2 - 22} width="90" height="22" {...METAL} />
      <rect x="35" y={60 + high / 2} width="60" height="22" {...METAL} />
      {blades.map((blade, index) => {
        const below = blades.slice(0, index).reduce((sum, one) => sum + one, 0);
        const y = 60 + high / 2 - (below + blade) * scale;
        return <rect key={index} x={15 + index * 4} y={y} width="150" height={Math.max(blade * scale - 1, 1)} fill="var(--teal)" opacity={0.9 - index * 0.2} />;
      })}
      <Words x={175} y={64}>{words}</Words>
    </>
  );
}

function GoNoGo(values: Values): ReactNode {
  const passes = length(values, "passes");
  const refuses = length(values, "refuses");
  const middle = ((length(values, "minimum") ?? 0) + (length(values, "maximum") ?? 0)) / 2;
  const gap = passes !== undefined && refuses !== undefined ? (passes + refuses) / 2 : middle;
  return gap > 0 && <Gap millimetre={gap} blades={passes ? [passes] : []} words={passes ? t("this one passes") : t("the middle")} />;
}

function Stack(values: Values, answer: Answer): ReactNode {
  const target = length(values, "target");
  const best = (answer["combinations"] as readonly { blades: readonly Quantity[] }[] | undefined)?.[0];
  return target !== undefined && best && <Gap millimetre={target} blades={best.blades.map(millimetres)} words={t("nearest stack")} />;
}

function Spark(values: Values, answer: Answer): ReactNode {
  const gap = length(values, "gap");
  const share = Number(answer["share_of_coil"] ?? 0) / 100;
  if (gap === undefined) return null;
  const half = (gap * Math.min(100, 90 / Math.max(gap, 0.1))) / 2;
  return (
    <>
      <Gap millimetre={gap} blades={[]} words="" />
      <path d={`M65 ${60 - half}l5 ${half * 0.7}-9 ${half * 0.5} 5 ${half * 0.8}`} fill="none" stroke="var(--ochre)" strokeWidth="3" />
      {share > 0 && (
        <>
          <rect x="175" y="20" width="22" height="80" fill="none" stroke="var(--ink)" />
          <rect x="175" y={100 - Math.min(share, 1) * 80} width="22" height={Math.min(share, 1) * 80} fill={share > 1 ? "var(--rust)" : "var(--teal)"} />
          <Words x={202} y={64}>{t("of the coil")}</Words>
        </>
      )}
    </>
  );
}

function Wrench(values: Values): ReactNode {
  const grip = length(values, "wrench_length") ?? 350;
  const offset = length(values, "adaptor_offset") ?? 0;
  const scale = 220 / (grip + offset);
  const head = 20 + offset * scale;
  return (
    <>
      {offset > 0 && <path d={`M20 60H${head}`} stroke="var(--ochre)" strokeWidth="10" />}
      <circle cx="20" cy="60" r="12" {...METAL} />
      <circle cx={head} cy="60" r="9" {...METAL} />
      <path d={`M${head} 60H${head + grip * scale}`} stroke="var(--metal)" strokeWidth="7" />
      <path d={`M${head + grip * scale - 26} 60h26`} stroke="var(--ink)" strokeWidth="12" strokeLinecap="round" />
      <Words x={20} y={92}>{offset > 0 ? t("adaptor") : t("plug")}</Words>
      <Words x={head + grip * scale - 26} y={92}>{t("grip")}</Words>
    </>
  );
}

/** The points closed for so many degrees of each lobe. */
function Cam(values: Values, answer: Answer): ReactNode {
  const lobes = Math.round(number(values, "lobes") ?? 4);
  const dwell = number(answer, "dwell_deg") ?? number(values, "dwell_deg") ?? number(values, "known_dwell_deg");
  if (lobes < 1 || lobes > 12 || dwell === undefined) return null;
  const pitch = 360 / lobes;
  const at = (degrees: number, radius: number) => {
    const angle = (degrees * Math.PI) / 180;
    return `${(70 + radius * Math.cos(angle)).toFixed(1)} ${(60 + radius * Math.sin(angle)).toFixed(1)}`;
  };
  const arc = (from: number, to: number) => `M${at(from, 48)}A48 48 0 ${to - from > 180 ? 1 : 0} 1 ${at(to, 48)}`;
  const starts = Array.from({ length: lobes }, (_, index) => index * pitch);
  const outline = Array.from({ length: 181 }, (_, index) => at(index * 2, 28 + 9 * Math.cos((lobes * index * 2 * Math.PI) / 180)));
  return (
    <>
      <path d={`M${outline.join("L")}z`} {...METAL} />
      {starts.map((start) => (
        <path key={start} d={arc(start + (pitch - dwell) / 2, start + (pitch + dwell) / 2)} fill="none" stroke="var(--teal)" strokeWidth="7" />
      ))}
      <Words x={135} y={56}>{t("closed for {{dwell}}°", { dwell: Math.round(dwell) })}</Words>
      <Words x={135} y={72}>{t("of {{pitch}}° a lobe", { pitch: Math.round(pitch) })}</Words>
    </>
  );
}

function Pulley(values: Values): ReactNode {
  const angle = number(values, "angle_deg");
  if (angle === undefined) return null;
  const at = (degrees: number, radius: number): [number, number] => [
    70 + radius * Math.sin((degrees * Math.PI) / 180),
    62 - radius * Math.cos((degrees * Math.PI) / 180),
  ];
  const [x, y] = at(angle, 50);
  return (
    <>
      <circle cx="70" cy="62" r="50" {...METAL} />
      <circle cx="70" cy="62" r="8" fill="var(--sheet)" stroke="var(--ink)" />
      <path d={`M70 12A50 50 0 ${Math.abs(angle) > 180 ? 1 : 0} ${angle > 0 ? 1 : 0} ${x.toFixed(1)} ${y.toFixed(1)}`} fill="none" stroke="var(--ochre)" strokeWidth="6" />
      <path d={`M70 6V22M${x} ${y}L${at(angle, 36).join(" ")}`} stroke="var(--ink)" strokeWidth="3" />
      <Words x={135} y={64}>{t("{{angle}}° along the rim", { angle })}</Words>
    </>
  );
}

/** The leak as one round hole beside the restrictor's, both to one scale. */
function Holes(values: Values, answer: Answer): ReactNode {
  const restrictor = length(values, "restrictor");
  const area = number(answer, "area_mm2") ?? number(values, "area_mm2");
  if (restrictor === undefined || area === undefined || area < 0) return null;
  const leak = 2 * Math.sqrt(area / Math.PI);
  const scale = 80 / Math.max(restrictor, leak, 0.1);
  return (
    <>
      <circle cx="60" cy="56" r={(restrictor * scale) / 2} fill="none" stroke="var(--ink)" strokeWidth="3" />
      <circle cx="180" cy="56" r={Math.max((leak * scale) / 2, 1)} fill="var(--rust)" />
      <Words x={20} y={116}>{t("restrictor {{restrictor}} mm", { restrictor: restrictor.toFixed(2) })}</Words>
      <Words x={140} y={116}>{t("leak as a hole of {{leak}} mm", { leak: leak.toFixed(2) })}</Words>
    </>
  );
}

const DRAWINGS: Record<string, (values: Values, answer: Answer) => ReactNode> = {
  gap: GoNoGo,
  blades: Stack,
  breakdown: Spark,
  torque: Wrench,
  dwell: Cam,
  points: Cam,
  pulley: Pulley,
  leakdown: Holes,
  testers: Holes,
  "leak-area": Holes,
};

/** What a calculator computes, drawn to scale from what was typed; nothing where there is nothing to draw. */
export function Drawing({ name, title, values, answer }: { name: string; title: string; values: Values; answer: Answer }) {
  const drawn = DRAWINGS[name]?.(values, answer);
  if (!drawn) return null;
  return (
    <svg viewBox={`0 0 ${WIDE} 124`} role="img" aria-label={t("{{title}}, drawn to scale", { title })} className="w-full max-w-md rounded-md border border-line bg-paper">
      {drawn}
    </svg>
  );
}
