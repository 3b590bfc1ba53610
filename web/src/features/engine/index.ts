export { EnginePlan } from "./EnginePlan";
export { NewEnginePage } from "./NewEnginePage";
