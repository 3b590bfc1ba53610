export { EntryLine } from "./EntryLine";
export { RoundEntry } from "./RoundEntry";
export { answered, RESERVED, waiting, type Answer, type Round } from "./rounds";
export { useRound, type Acting } from "./useRound";
