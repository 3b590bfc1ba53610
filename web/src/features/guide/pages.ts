import { t } from "../../language";
import { marked } from "marked";

// The pages that stand in docs/guide: one source for the folder and for here.
const TEXTS = import.meta.glob<string>("../../../../docs/guide/*.md", { query: "?raw", import: "default", eager: true });
const PICTURES = import.meta.glob<string>("../../../../docs/screenshots/*.png", { query: "?url", import: "default", eager: true });

const nameOf = (path: string) => path.slice(path.lastIndexOf("/") + 1).replace(/\.\w+$/, "");
const texts = new Map(Object.entries(TEXTS).map(([path, text]) => [nameOf(path), text]));
const pictures = new Map(Object.entries(PICTURES).map(([path, address]) => [nameOf(path), address]));

/** The page of a step as HTML; its pictures are those of the folder. */
export function pageOf(step: string): string | undefined {
  const text = texts.get(step)?.replaceAll(/\(\.\.\/screenshots\/([\w-]+)\.png\)/g, (all, name: string) => {
    const address = pictures.get(name);
    return address ? `(${address})` : all;
  });
  return text && marked.parse(text, { async: false });
}

/** What is to be done at a step now, and why: the two sentences that accompany it. */
export function nowAndWhy(step: string): { now: string; why: string } | undefined {
  const text = texts.get(step);
  const part = (name: string) => new RegExp(`\\*\\*${name}\\.\\*\\* (.*)`).exec(text ?? "")?.[1]?.replaceAll("*", "");
  const [now, why] = [part(t("Now")), part(t("Why"))];
  return now && why ? { now, why } : undefined;
}
