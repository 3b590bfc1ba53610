import { t } from "../../language";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { askAgain } from "../../api/again";
import { api, take } from "../../api/client";
import { isOwner, useSession } from "../session/useSession";
import { Button } from "../../primitives/Button";
import { TextField } from "../../primitives/Field";
import { inspectionOf, queue, type Entry } from "../../queue";
import { exportEntries } from "./export";
import { entries, told, why } from "./words";

/** What the server would not take: each with its reason and what can be done. Only a person deletes it. */
export function SetAside({ list }: { list: readonly Entry[] }) {
  const signed = [...new Set(list.filter((one) => one.aside?.code === "signed-off").map((one) => inspectionOf(one.act)))];
  return (
    <section aria-label={t("Set aside")} className="sheet p-4">
      <h2 className="mb-1 font-bold text-rust">{t("{{count}} could not be kept in the log", { count: entries(list.length) })}</h2>
      <p className="mb-2 text-sm text-soft">{t("What is set aside stays on this device until you send, correct or discard it.")}</p>
      {signed.map((inspection) => inspection && <Amend key={inspection} inspection={inspection} list={list} />)}
      <ul className="grid gap-2">
        {list.map((one) => (
          <One key={one.id} entry={one} />
        ))}
      </ul>
    </section>
  );
}

function One({ entry }: { entry: Entry }) {
  const [sure, setSure] = useState(false);
  const { what, value } = told(entry);
  const inspection = inspectionOf(entry.act);
  return (
    <li className="grid gap-1 border-t border-line pt-2">
      <p>
        <span className="caption">{[entry.title, what].filter(Boolean).join(", ")}</span> <b>{value}</b>
      </p>
      <p className="text-sm">
        <span className="text-rust">{entry.aside && why(entry.aside)}</span>{" "}
        <span className="caption">
          {entry.author.name}, {entry.made && new Date(entry.made).toLocaleString()}
        </span>
      </p>
      <p className="flex flex-wrap gap-2">
        <Button onClick={() => queue.again([entry.id])}>{t("Send again")}</Button>
        {inspection && (
          <Link className="target grid min-h-10 place-items-center rounded-md border border-line px-3" to={`/inspections/${inspection}`}>
            {t("Correct it in its place")}
          </Link>
        )}
        <Button onClick={() => void exportEntries([entry])}>{t("Export")}</Button>
        {sure ? (
          <Button weight="main" onClick={() => queue.discard([entry.id])}>
            {t("Yes, discard it for good")}
          </Button>
        ) : (
          <Button onClick={() => setSure(true)}>{t("Discard")}</Button>
        )}
      </p>
    </li>
  );
}

/** Signed meanwhile: an amendment is opened with its reason, and what waited for it goes out. */
function Amend({ inspection, list }: { inspection: string; list: readonly Entry[] }) {
  const queries = useQueryClient();
  const owner = isOwner(useSession().person);
  const [reason, setReason] = useState("");
  const held = list.filter((one) => one.aside?.code === "signed-off" && inspectionOf(one.act) === inspection);
  const open = useMutation({
    mutationFn: () =>
      take(
        api.POST("/api/inspections/{inspection_id}/reopen", {
          params: { path: { inspection_id: inspection } },
          body: { reason },
        }),
      ),
    onSuccess: () => {
      queue.again(held.map((one) => one.id));
      void askAgain(queries, ["inspection", inspection]);
    },
  });
  return (
    <div className="mb-3 grid gap-1 border-l-4 border-teal pl-2">
      <p>
        <b>{held[0]?.title}</b>{" "}{t("was signed off before {{count}} arrived.", { count: entries(held.length) })}
      </p>
      <div className="flex flex-wrap items-end gap-2">
        <TextField label={t("Why it has to be amended")} value={reason} onChange={(event) => setReason(event.target.value)} />
        <Button weight="main" disabled={!owner || !reason.trim() || open.isPending} onClick={() => open.mutate()}>
          {t("Open an amendment and send")}
        </Button>
      </div>
      {!owner && <p className="caption">{t("An owner of the shop opens the amendment; the entries wait here until then.")}</p>}
      {open.error && (
        <p role="alert" className="text-sm text-rust">
          {open.error.message}
        </p>
      )}
    </div>
  );
}
