export { RefitEntry } from "./RefitEntry";
export type { Sheet } from "./fields";
