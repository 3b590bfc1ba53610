export { CompressionEntry } from "./CompressionEntry";
