export { PlanEntry } from "./PlanEntry";
export { Pieces } from "./Pieces";
