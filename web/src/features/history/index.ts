export { Again } from "./Again";
export { Carried } from "./Carried";
export { Earlier } from "./Earlier";
export { EngineEntry } from "./EngineEntry";
export { OverTime } from "./OverTime";
export { StoryEntry } from "./StoryEntry";
