export { TracePanel } from "./TracePanel";
