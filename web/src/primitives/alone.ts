/** Words that say there is nothing else to say, and so stand alone in a list. */
export const ALONE: ReadonlySet<string> = new Set(["clean", "sound", "none", "unknown"]);
