export { LivePanel } from "./LivePanel";
export { useInstrument, type Capture } from "./useInstrument";
