export { HistoryEntry } from "./HistoryEntry";
