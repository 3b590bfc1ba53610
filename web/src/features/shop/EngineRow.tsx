import { t } from "../../language";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { askAgain } from "../../api/again";
import { api, take, type Engine } from "../../api/client";
import { Button } from "../../primitives/Button";
import { SelectField } from "../../primitives/Field";
import { Question } from "../../primitives/Question";
import type { Known } from "../inspection/begin";

export type EngineOfShop = Known & { title: string; identifier: string; data: Engine };

interface Props {
  engine: EngineOfShop;
  /** The others of the list: one of them may be the same engine. */
  others: readonly EngineOfShop[];
  writes: boolean;
  onInspect: () => void;
}

/** One engine of the shop: inspected, taken as the model of another, or recognised as one that is there twice. */
export function EngineRow({ engine, others, writes, onInspect }: Props) {
  const [merging, setMerging] = useState(false);
  return (
    <li className="flex items-center gap-2 px-3 py-2">
      <span className="min-w-0 flex-1">
        <Link to={`/engines/${engine.id}`} className="target block truncate font-bold hover:underline">
          {engine.title}
        </Link>
        <span className="caption">
          {engine.identifier} {engine.data.layout}, {engine.data.cylinders} {engine.data.cylinders === 1 ? t("cylinder") : t("cylinders")}
        </span>
      </span>
      {writes && (
        <>
          <Button onClick={onInspect}>{t("Inspect")}</Button>
          <details className="relative">
            <summary className="target grid min-h-10 cursor-pointer list-none place-items-center rounded-md border border-line px-2" aria-label={t("More about {{title}}", { title: engine.title })}>
              ...
            </summary>
            <div className="absolute right-0 z-10 grid w-44 gap-1 rounded-md border border-line bg-sheet p-1.5 shadow-lg">
              <Link className="target grid min-h-10 place-items-center rounded-md border border-line" to={`/engines/new?like=${engine.id}`}>
                {t("Another like it")}
              </Link>
              <Button onClick={() => setMerging(true)}>{t("It is there twice")}</Button>
            </div>
          </details>
        </>
      )}
      {merging && <MergeQuestion engine={engine} others={others} onClose={() => setMerging(false)} />}
    </li>
  );
}

/** Which of two records stays; the inspections of the other go over to it. */
function MergeQuestion({ engine, others, onClose }: { engine: EngineOfShop; others: readonly EngineOfShop[]; onClose: () => void }) {
  const queries = useQueryClient();
  const [into, setInto] = useState("");
  const possible = others.filter((one) => one.id !== engine.id && one.data.cylinders === engine.data.cylinders);
  const merge = useMutation({
    mutationFn: () => take(api.POST("/api/engines/{engine_id}/merge", { params: { path: { engine_id: engine.id } }, body: { into } })),
    onSuccess: () => {
      void askAgain(queries, ["engines"], ["inspections"]);
      onClose();
    },
  });
  return (
    <Question title={t("{{title}} is the same engine as", { title: engine.title })} onClose={onClose}>
      <SelectField
        label={t("The record that stays")}
        value={into}
        empty={possible.length > 0 ? t("choose") : t("none of the listed has as many cylinders")}
        options={possible.map((one) => ({ value: one.id, label: `${one.title} ${one.identifier}` }))}
        onChange={setInto}
      />
      <p className="text-sm">{t("All inspections of {{title}} go over to it, each with the engine as it was described then. This cannot be taken back.", { title: engine.title })}</p>
      {merge.error && (
        <p role="alert" className="text-sm text-rust">
          {merge.error.message}
        </p>
      )}
      <div className="flex gap-2">
        <Button weight="main" disabled={into === "" || merge.isPending} onClick={() => merge.mutate()}>
          {t("Make them one")}
        </Button>
        <Button onClick={onClose}>{t("Leave both")}</Button>
      </div>
    </Question>
  );
}
