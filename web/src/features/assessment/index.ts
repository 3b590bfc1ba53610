export { GradeMark, GRADE_WORDS } from "./GradeMark";
export { Schools } from "./Schools";
export { VerdictCard } from "./VerdictCard";
export { useReasons } from "./useReasons";
export { money, useFaults, useWords, type Words } from "./words";
