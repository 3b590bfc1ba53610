export { EnginePlan } from "./EnginePlan";
export { NewEnginePage } from "./NewEnginePage";
export { Numbering } from "./Numbering";
