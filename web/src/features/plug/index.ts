export { FiringEnd } from "./FiringEnd";
export { PlugEntry } from "./PlugEntry";
export type { PlugRecord } from "./findings";
