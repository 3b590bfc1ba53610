export { FiringEnd } from "./FiringEnd";
export { PlugEntry } from "./PlugEntry";
export type { PlugRecord } from "./findings";
export { ELECTRODES, FACES, LOOSENING, WELLS } from "./rounds";
