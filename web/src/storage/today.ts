/** Today as dates are written in a record. */
export const today = (): string => new Date().toISOString().slice(0, 10);
