export { Outcome } from "./Outcome";
export { HandOver } from "./HandOver";
