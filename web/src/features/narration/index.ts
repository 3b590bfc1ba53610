export { SayPanel } from "./SayPanel";
