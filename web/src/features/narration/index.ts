export { SayPanel } from "./SayPanel";
export { TableEntry } from "./TableEntry";
