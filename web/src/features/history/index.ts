export { Earlier } from "./Earlier";
export { HistoryEntry } from "./HistoryEntry";
