export { Block } from "./Block";
export { EngineStrip } from "./EngineStrip";
export { Numbering } from "./Numbering";
export { SharingEntry } from "./SharingEntry";
