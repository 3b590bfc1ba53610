import { t } from "../../language";
import { useState } from "react";
import type { Document, Schemas } from "../../api/client";
import { Choice } from "../../primitives/Choice";
import { worked } from "../bench";
import { FiringEnd } from "../plug";
import { StripRow } from "./StripRow";

type Order = "number" | "firing" | "position";

const ORDERS: readonly { value: Order; label: string }[] = [
  { value: "position", label: t("as they sit") },
  { value: "number", label: t("by number") },
  { value: "firing", label: t("firing order") },
];

interface Props {
  board: Schemas["Board"];
  document: Document;
  chosen: number;
  onChoose: (cylinder: number) => void;
}

/** All cylinders side by side, one strip a kind of evidence: the odd one shows without reading. */
export function Board({ board, document, chosen, onChoose }: Props) {
  const possible = ORDERS.filter((one) => board.orders[one.value]);
  const [wanted, setOrder] = useState<Order>("position");
  const order = board.orders[wanted] ? wanted : "number";
  const groups = board.orders[order] ?? board.orders.number;
  return (
    <div>
      <div className="mb-2 flex flex-wrap items-end justify-between gap-2">
        <Choice label={t("Side by side")} options={possible} value={order} onChange={(next) => next && setOrder(next)} />
        <p className="caption">{t("Shaded: what is expected. Tap a figure for its basis.")}</p>
      </div>
      <div className="grid gap-x-3 border-b border-line pb-1 sm:grid-cols-[10.5rem_1fr]">
        <h3 className="font-bold">{t("Plugs")}</h3>
        <div className="flex gap-4">
          {groups.map((group) => (
            <div key={group.join()} className="flex flex-1 gap-1">
              {group.map((number) => (
                <button
                  key={number}
                  type="button"
                  className="grid min-w-0 flex-1 justify-items-center"
                  aria-label={t("Cylinder {{number}}", { number })}
                  aria-pressed={number === chosen}
                  onClick={() => onChoose(number)}
                >
                  <FiringEnd
                    plug={document.cylinders?.find((one) => one.number === number)?.plug ?? {}}
                    className="w-full max-w-16"
                  />
                  <b className={number === chosen ? "border-b-3 border-teal" : ""}>{number}</b>
                </button>
              ))}
            </div>
          ))}
        </div>
      </div>
      {board.strips.length === 0 && (
        <p className="py-4 text-soft">{t("Nothing to compare yet: read plugs or take pressures, and they stand here side by side.")}</p>
      )}
      {board.strips.map((strip) => (
        <StripRow key={strip.id} strip={strip} groups={groups} chosen={chosen} job={worked(document)} onChoose={onChoose} />
      ))}
    </div>
  );
}
