import type { Document } from "../../api/client";
import { options, type Field, type Group } from "../record";

type Proof = NonNullable<Document["proof"]>;

/** Run after the work. */
export const RUN: Group = {
  title: "Start it, listen, drive it",
  caution: "Driven where it is permitted, insured and lawful; on the water, as the harbour says. Codes are cleared only after they are written down.",
  fields: [
    { kind: "date", path: "/proof/date", label: "Date" },
    { kind: "choice", path: "/proof/start", label: "It started", options: options<NonNullable<Proof["start"]>>("at-once", "after-a-while", "no") },
    { kind: "choice", path: "/proof/beat", label: "Its beat", options: options<NonNullable<Proof["beat"]>>("even", "uneven") },
    { kind: "choice", path: "/proof/codes", label: "Codes", options: options<NonNullable<Proof["codes"]>>("not-cleared", "stay-clear", "came-back") },
  ],
};
/** Whether the complaint went. */
export const AFTERWARDS: Group = {
  title: "Under the conditions of the complaint",
  fields: [
    { kind: "flag", path: "/proof/drive", label: "Driven under the conditions of the complaint" },
    { kind: "text", path: "/proof/drive_conditions", label: "Which were" },
    { kind: "choice", path: "/proof/complaint", label: "The complaint is", options: options<NonNullable<Proof["complaint"]>>("gone", "better", "same", "worse") },
    { kind: "text", path: "/proof/note", label: "Note" },
  ],
};
/** The old plugs as a set. */
export const KEPT: readonly Field[] = [
  { kind: "text", path: "/refit/kept/label", label: "Label on the set", hint: "As it is written on the tin. The set shows up under Story, beside the next." },
  { kind: "text", path: "/refit/kept/where", label: "Where it lies" },
];
