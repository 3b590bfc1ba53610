import { t } from "../../language";
import type { Schemas } from "../../api/client";

type Event = Schemas["AccountEvent"];

const HAPPENED: Record<Event["kind"], string> = {
  "came-in": t("signed in"),
  invited: t("was asked in"),
  "link-made": t("a link was made for"),
  "link-used": t("a password was set by a link"),
  "password-changed": t("the password was changed"),
  "factor-added": t("a second factor was added"),
  "factor-taken": t("the second factor was taken away"),
  "key-made": t("a key was made"),
  "key-taken": t("a key was taken back"),
  "role-changed": t("may do something else now"),
  exported: t("a file was taken out"),
  erased: t("was erased"),
};

/** What happened to accounts, the latest first: whom, what, by whom, when and from where. */
export function AccountLog({ title, happened, hint }: { title: string; happened: readonly Event[]; hint: string }) {
  return (
    <section className="sheet grid gap-2 p-4" aria-label={title}>
      <h2 className="font-bold">{title}</h2>
      <p className="caption">{hint}</p>
      <ul className="grid max-h-96 gap-1 overflow-y-auto text-sm" tabIndex={0} aria-label={t("What happened")}>
        {happened.map((one) => (
          <li key={`${one.at} ${one.kind} ${one.whom}`} className="border-t border-line pt-1">
            <b>{one.whom}</b>: {HAPPENED[one.kind]}
            {one.told && ` (${one.told.slice(0, 60)})`}
            <span className="caption block">
              {[new Date(one.at).toLocaleString(), one.address, one.by !== one.whom && t("by {{name}}", { name: one.by })].filter(Boolean).join(", ")}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
