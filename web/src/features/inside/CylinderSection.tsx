import type { ReactNode } from "react";
import type { Escape } from "./findings";

interface Props {
  twoStroke: boolean;
  escapes: readonly Escape[];
}

// From the chamber to the outside, one way for each place.
const WAYS: Record<Exclude<Escape, "none">, string> = {
  intake: "M138 84 Q126 62 92 52",
  exhaust: "M182 84 Q194 62 228 52",
  coolant: "M132 98 Q112 98 92 112",
  neighbour: "M188 98 Q208 98 228 112",
  crankcase: "M122 104 L117 176 Q130 200 150 206",
};
const PORTS: Partial<typeof WAYS> = {
  intake: "M128 150 Q104 132 92 58",
  exhaust: "M192 138 Q216 120 228 58",
};

/** A cylinder cut through the middle, its piston at the top, the air of the tester in its chamber. */
export function CylinderSection({ twoStroke, escapes }: Props) {
  const ways = twoStroke ? { ...WAYS, ...PORTS } : WAYS;
  return (
    <svg viewBox="0 0 320 236" className="w-full" aria-hidden="true">
      <defs>
        <marker id="escape-tip" viewBox="0 0 8 8" refX="6" refY="4" markerWidth="3" markerHeight="3" orient="auto">
          <path d="M0 0 8 4 0 8z" fill="var(--rust)" />
        </marker>
      </defs>
      {/* Block and head, with the coolant in them. */}
      <path d="M78 92H120V200H78z M200 92H242V200H200z" fill="var(--wash)" stroke="var(--metal)" strokeWidth="2" />
      <path d="M78 30H242V86H200V80H120V86H78z" fill="var(--wash)" stroke="var(--metal)" strokeWidth="2" />
      <path d="M90 112H110V176H90z M210 112H230V176H210z" fill="var(--sheet)" stroke="var(--metal)" strokeDasharray="3 3" />
      <path d="M78 89H120M200 89H242" stroke="var(--ink)" strokeWidth="3" />
      {/* The air. */}
      <path d="M120 80H200V106H120z" fill="var(--teal)" opacity="0.25" />
      {twoStroke ? <Ports /> : <Valves />}
      {/* Plug hole with the tester's hose. */}
      <path d="M154 30V80M166 30V80" stroke="var(--metal)" strokeWidth="2" />
      <path d="M160 6V78" stroke="var(--ink)" strokeWidth="5" strokeLinecap="round" />
      {/* Piston, rings, rod. */}
      <path d="M122 106H198V168H122z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="2" />
      <path d="M120 116H200M120 126H200" stroke="var(--ink)" strokeWidth="4" />
      <circle cx="160" cy="146" r="7" fill="none" stroke="var(--ink)" strokeWidth="2" />
      <path d="M157 153L150 212M163 153L170 212" stroke="var(--ink)" strokeWidth="2" />
      {escapes.map((one): ReactNode =>
        one === "none" ? null : (
          <path
            key={one}
            d={ways[one]}
            fill="none"
            stroke="var(--rust)"
            strokeWidth="5"
            strokeLinecap="round"
            strokeDasharray="1 9"
            markerEnd="url(#escape-tip)"
          />
        ),
      )}
    </svg>
  );
}

function Valves() {
  return (
    <g stroke="var(--ink)" strokeWidth="2" fill="var(--sheet)">
      <path d="M126 78L112 44H92V36H120L148 78z" />
      <path d="M194 78L208 44H228V36H200L172 78z" />
      <path d="M124 80H150M170 80H196" strokeWidth="5" />
      <path d="M137 78V24M183 78V24" strokeWidth="3" />
    </g>
  );
}

function Ports() {
  return (
    <g stroke="var(--ink)" strokeWidth="2" fill="var(--sheet)">
      <path d="M120 142H78V158H120z" />
      <path d="M200 130H242V148H200z" />
    </g>
  );
}
