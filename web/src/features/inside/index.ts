export { InsideEntry } from "./InsideEntry";
