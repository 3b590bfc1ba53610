export { InsideEntry } from "./InsideEntry";
export { LeakdownEntry } from "./LeakdownEntry";
