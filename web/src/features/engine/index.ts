export { EnginePlan } from "./EnginePlan";
export { Numbering } from "./Numbering";
