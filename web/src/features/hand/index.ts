export { partsOf, roundOf, someOf, STEPS, type Part, type Step } from "./steps";
export { useHand } from "./useHand";
export { usePlace, type Place } from "./usePlace";
