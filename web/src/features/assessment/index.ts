export { GradeMark, GRADE_WORDS } from "./GradeMark";
export { Reasons } from "./Reasons";
export { SharedReasons, sharedIsLikelier } from "./SharedReasons";
export { Schools } from "./Schools";
export { VerdictCard } from "./VerdictCard";
export { Warnings } from "./Warnings";
export { useReasons } from "./useReasons";
export { useFaults, useWords, type Words } from "./words";
