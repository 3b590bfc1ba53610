import { LISTS, NAMING } from "../../api/contract.generated";
import type { Document } from "../../api/client";
import { valueAt, type Entries } from "../record";

/** Something said, in the numbers that the cylinders had where it was said. */
export interface Observation {
  path: string;
  /** null takes the field back to "not looked at". */
  value: unknown;
  /** The cylinders' first numbers, in the order of the numbers of then. */
  numbering: readonly number[];
  /** Changes nothing: what stands is to stand. */
  keeps?: true;
}

export interface Folded {
  document: Document;
  numbering: readonly number[];
}

type Item = Record<string, unknown>;
type Moves = ReadonlyMap<number, number>;

/** Where the log says that the cylinders are numbered otherwise. */
export const NUMBERING = "/numbering";
const naming = new Set(NAMING);

/** The document as it will be once these are saved; the server's own fold has the last word. */
export function fold(known: Folded, observations: readonly Observation[]): Folded {
  return observations.reduce(say, known);
}

function say({ document, numbering }: Folded, said: Observation): Folded {
  if (said.keeps) return { document, numbering };
  if (said.path === NUMBERING) {
    const after = said.value as readonly number[];
    return { document: renumbered(document, moves(numbering, after)), numbering: after };
  }
  const [path, value] = followed(said, numbering);
  const steps = path.split("/").slice(1).map(unescaped);
  return { document: put(document as unknown as Item, steps, 0, value, "") as unknown as Document, numbering };
}

/** What takes entries back: last first, each step passes through what stood before it; what was added to a list goes whole. */
export function stoodBefore(document: Document, said: Entries, numbering: readonly number[]): Entries {
  const back = said.map(([path], index) => {
    const added = addedBy(document, path);
    if (added !== undefined) return [added, undefined] as const;
    const earlier = said.slice(0, index).findLast(([other]) => other === path);
    return [path, earlier ? earlier[1] : path === NUMBERING ? numbering : valueAt(document, path)] as const;
  });
  return back.reverse().filter(([path], index, all) => addedBy(document, path) === undefined || all.findIndex(([other]) => other === path) === index);
}

/** The item of a list, cylinders aside, that a path would begin; undefined where it stands already. */
function addedBy(document: Document, path: string): string | undefined {
  let pattern = "";
  let place = "";
  for (const step of path.split("/").slice(1)) {
    const list = LISTS[pattern];
    place += `/${step}`;
    pattern += list ? "/*" : `/${step}`;
    if (list && !list.cylinder && valueAt(document, place) === undefined) return place;
  }
  return undefined;
}

function unescaped(step: string): string {
  return step.replaceAll("~1", "/").replaceAll("~0", "~");
}

// --------------------------------------------------------------------- cylinders under other numbers

/** The number of every cylinder in one numbering as it is in another, where it differs. */
export function moves(before: readonly number[], after: readonly number[]): Moves {
  const now = new Map(after.map((first, index) => [first, index + 1]));
  const pairs = before.map((first, index) => [index + 1, now.get(first) ?? index + 1] as const);
  return new Map(pairs.filter(([old, next]) => old !== next));
}

/** What was said, in the numbers of another numbering. */
export function followed({ path, value, numbering }: Observation, after: readonly number[]): [string, unknown] {
  const turned = moves(numbering, after);
  if (turned.size === 0) return [path, value];
  let pattern = "";
  const steps = path.split("/").slice(1).map((step) => {
    const list = LISTS[pattern];
    pattern += list ? "/*" : `/${step}`;
    return list?.cylinder ? String(turned.get(Number(step)) ?? step) : step;
  });
  return [`/${steps.join("/")}`, moved(value, pattern, turned)];
}

/** A document with its cylinders numbered otherwise. */
export function renumbered(document: Document, turned: Moves): Document {
  return turned.size === 0 ? document : (moved(document, "", turned) as Document);
}

function moved(value: unknown, pattern: string, turned: Moves): unknown {
  if (naming.has(pattern)) {
    const one = (number: unknown) => turned.get(number as number) ?? number;
    return Array.isArray(value) ? value.map(one) : one(value);
  }
  if (Array.isArray(value)) {
    const list = LISTS[pattern];
    if (!list) return value;
    const items = value.map((item) => moved(item, `${pattern}/*`, turned) as Item);
    return list.cylinder ? items.sort((a, b) => Number(a[list.key]) - Number(b[list.key])) : items;
  }
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([name, inner]) => [name, moved(inner, `${pattern}/${name}`, turned)]));
}

// ------------------------------------------------------------------------------ one value put in

/** The same with one value put in; what the path does not touch stays the very same object. */
function put(target: Item, steps: readonly string[], at: number, value: unknown, pattern: string): Item {
  const step = steps[at] ?? "";
  const place = `${pattern}/${step}`;
  const list = LISTS[place];
  if (list && at < steps.length - 1) {
    return { ...target, [step]: putItem((target[step] ?? []) as Item[], list, steps, at + 1, value, `${place}/*`) };
  }
  if (at < steps.length - 1) return { ...target, [step]: put((target[step] ?? {}) as Item, steps, at + 1, value, place) };
  const made = { ...target, [step]: value };
  if (value === null) Reflect.deleteProperty(made, step);
  return made;
}

function putItem(
  list: readonly Item[],
  { key, cylinder }: { key: string; cylinder: boolean },
  steps: readonly string[],
  at: number,
  value: unknown,
  place: string,
): Item[] {
  const step = steps[at] ?? "";
  const identity = cylinder ? Number(step) : step;
  const known = list.find((one) => one[key] === identity);
  // An item that is taken back goes whole.
  if (at === steps.length - 1) return value === null ? list.filter((one) => one !== known) : [...list];
  const made = put(known ?? { [key]: identity }, steps, at + 1, value, place);
  if (known) return list.map((one) => (one === known ? made : one));
  const longer = [...list, made];
  return cylinder ? longer.sort((a, b) => Number(a[key]) - Number(b[key])) : longer;
}
