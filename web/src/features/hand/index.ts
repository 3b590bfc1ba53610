export { partsOf, roundOf, someOf, STEPS, type Part, type Step } from "./steps";
export { useReaderBack, useReadsBack } from "./readerBack";
export { useHand } from "./useHand";
export { usePlace, type Place } from "./usePlace";
