export { Earlier } from "./Earlier";
export { OverTime } from "./OverTime";
export { HistoryEntry } from "./HistoryEntry";
export { DISTRIBUTOR } from "./findings";
