export { PlanEntry } from "./PlanEntry";
