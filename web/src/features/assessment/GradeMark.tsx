import { t } from "../../language";
import type { ReactNode } from "react";
import { GRADE_WORDS } from "../../api/contract.generated";

export { GRADE_WORDS };
export type Grade = keyof typeof GRADE_WORDS;

// A letter, a shape that fills and gains corners as it gets worse, and a tone: three ways to tell.
const SHAPES: Record<Grade, ReactNode> = {
  A: <circle cx="20" cy="20" r="16" fill="var(--sheet)" stroke="var(--teal)" strokeWidth="3" />,
  B: <rect x="5" y="5" width="30" height="30" rx="9" fill="var(--sheet)" stroke="var(--soft)" strokeWidth="3" />,
  C: <path d="M20 2L38 20 20 38 2 20z" fill="var(--wash)" stroke="var(--ochre)" strokeWidth="3" />,
  D: <path d="M4 8H36L32 36H8z" fill="var(--rust)" stroke="var(--rust)" strokeWidth="2" />,
  E: <path d="M13 2h14l11 11v14L27 38H13L2 27V13z" fill="var(--ink)" stroke="var(--rust)" strokeWidth="3.5" />,
  U: <circle cx="20" cy="20" r="16" fill="none" stroke="var(--soft)" strokeWidth="2.5" strokeDasharray="4 4" />,
};

export function GradeMark({ grade, className = "size-9" }: { grade: Grade; className?: string }) {
  const light = grade === "D" || grade === "E";
  return (
    <svg viewBox="0 0 40 40" className={className} role="img" aria-label={t("Grade {{grade}}: {{GRADE_WORDS}}", { grade, GRADE_WORDS: GRADE_WORDS[grade] })}>
      {SHAPES[grade]}
      <text
        x="20"
        y="26.5"
        textAnchor="middle"
        fontSize="19"
        fontWeight="700"
        fill={light ? "var(--sheet)" : "var(--ink)"}
      >
        {grade}
      </text>
    </svg>
  );
}
