export { PhotoStrip } from "./PhotoStrip";
export type { Photos } from "./photos";
