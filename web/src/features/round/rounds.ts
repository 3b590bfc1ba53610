import type { Document } from "../../api/client";
import { at, valueAt, type Entries, type Group, type NumberField, type QuantityField } from "../record";
import { worked } from "../bench";

/** One thing that is said of a cylinder with one key. */
export interface Answer {
  key: string;
  label: string;
  /** What tells it from its look-alike. */
  tell: string;
  /** Where, with `{n}` for the cylinder, and what; of a list, the words that join it. */
  sets: Entries;
  /** As it should be: nothing else is asked here, and the round moves on. A finding stays for its company. */
  whole?: boolean;
  /** It says all there is: no finding is its company. */
  alone?: boolean;
}

/** One kind of thing, asked of every cylinder in the bench's order. */
export interface Round {
  id: string;
  /** What is asked, and of what. */
  title: string;
  /** What to mind before doing it. */
  caution?: string;
  /** What has to be said before its first answer. */
  opening?: Entries;
  /** At most a dozen. */
  answers: readonly Answer[];
  /** The number that is read of each. */
  figure?: QuantityField | NumberField;
  /** Whether the number is set and not read: what is alike was set alike. */
  dialled?: boolean;
  /** Whether the number is the answer: Enter goes to the next cylinder's. */
  straight?: boolean;
  /** Whether little but the number is asked: the keyboard starts in it. */
  typed?: boolean;
  /** Any of these recorded: the cylinder was looked at in this round. */
  counts: readonly string[];
  /** Every other word of it, one key deeper. */
  details: readonly Group[];
}

/** Letters that mean the same in every round, and are no answer in any. */
export const RESERVED = { figure: "g", details: "d", undo: "z" } as const;

/** The paths that a round may write, but for its number and its texts. */
export function asked(round: Round): readonly string[] {
  const words = round.details.flatMap((group) => group.fields).filter(({ kind }) => kind === "choice" || kind === "flag" || kind === "tags");
  return [...new Set([...round.answers.flatMap(({ sets }) => sets.map(([path]) => path)), ...words.map(({ path }) => path)])];
}

/** Whether a cylinder was looked at in a round. */
export function answered(document: Document, round: Round, cylinder: number): boolean {
  return round.counts.some((path) => valueAt(document, at(path, cylinder)) !== undefined);
}

/** The cylinders of this job that a round still waits for, in the bench's order. */
export function waiting(document: Document, round: Round): readonly number[] {
  return worked(document).filter((number) => !answered(document, round, number));
}

/**
 * What a round says of a cylinder, as entries of another: the words of its own group, and what its keys
 * write, and a number that was set. What another round saw of the same parts ("electrodes square") is
 * not said along.
 */
export function copied(document: Document, round: Round, from: number, to: number): Entries {
  const own = new Set(round.details[0]?.fields.map(({ path }) => path));
  const keyed = round.answers.flatMap(({ sets }) => sets);
  const dialled = round.dialled ? round.figure?.path : undefined;
  const says = (path: string, value: unknown) =>
    own.has(path) || path === dialled || keyed.some(([other, word]) => other === path && (Array.isArray(value) || word === value));
  return [...asked(round), ...(dialled ? [dialled] : [])]
    .map((path) => [path, valueAt(document, at(path, from))] as const)
    .filter(([path, value]) => value !== undefined && says(path, value))
    .map(([path, value]) => [at(path, to), value]);
}

/** Where a round goes from a cylinder: on, or back to one that was passed over; undefined where it is whole. */
export function following(document: Document, round: Round | undefined, cylinder: number): number | undefined {
  const order = worked(document);
  const next = order[order.indexOf(cylinder) + 1];
  return next ?? (round && waiting(document, round).find((number) => number !== cylinder));
}
