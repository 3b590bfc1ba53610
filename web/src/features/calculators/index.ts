export { calculate } from "./calculate";
export { measured, stacked } from "./figures";
