export { RunningEntry } from "./RunningEntry";
