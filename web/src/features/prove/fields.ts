import { t } from "../../language";
import type { Document } from "../../api/client";
import { options, type Field, type Group } from "../record";

type Proof = NonNullable<Document["proof"]>;

/** Run after the work. */
export const RUN: Group = {
  title: t("Start it, listen, drive it"),
  caution: t("Driven where it is permitted, insured and lawful; on the water, as the harbour says. Codes are cleared only after they are written down."),
  fields: [
    { kind: "date", path: "/proof/date", label: t("Date") },
    { kind: "choice", path: "/proof/start", label: t("It started"), options: options<NonNullable<Proof["start"]>>("at-once", "after-a-while", "no") },
    { kind: "choice", path: "/proof/beat", label: t("Its beat"), options: options<NonNullable<Proof["beat"]>>("even", "uneven") },
    { kind: "choice", path: "/proof/codes", label: t("Codes"), options: options<NonNullable<Proof["codes"]>>("not-cleared", "stay-clear", "came-back") },
  ],
};
/** Whether the complaint went. */
export const AFTERWARDS: Group = {
  title: t("Under the conditions of the complaint"),
  fields: [
    { kind: "flag", path: "/proof/drive", label: t("Driven under the conditions of the complaint") },
    { kind: "text", path: "/proof/drive_conditions", label: t("Which were") },
    { kind: "choice", path: "/proof/complaint", label: t("The complaint is"), options: options<NonNullable<Proof["complaint"]>>("gone", "better", "same", "worse") },
    { kind: "text", path: "/proof/note", label: t("Note") },
  ],
};
/** The old plugs as a set. */
export const KEPT: readonly Field[] = [
  { kind: "text", path: "/refit/kept/label", label: t("Label on the set"), hint: t("As it is written on the tin. The set shows up under Story, beside the next.") },
  { kind: "text", path: "/refit/kept/where", label: t("Where it lies") },
];
