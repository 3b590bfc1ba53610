export { ProveEntry } from "./ProveEntry";
