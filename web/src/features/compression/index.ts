export { CompressionStep } from "./CompressionStep";
