import { t } from "../../language";
import { useState } from "react";
import type { Plan } from "../../api/client";
import { Button } from "../../primitives/Button";
import { Choice } from "../../primitives/Choice";
import { Tags } from "../../primitives/Tags";
import type { Recorder } from "../record";
import { worked, ways } from "./order";

interface Props {
  recorder: Recorder;
  plan: Plan;
}

/** In which order the engine is gone round, and which cylinders this job touches. */
export function OrderEntry({ recorder, plan }: Props) {
  const { document, onRecord, disabled } = recorder;
  const [byHand, setByHand] = useState<readonly number[] | undefined>();
  const all = Array.from({ length: document.engine.cylinders }, (_, index) => index + 1);
  const { order, scope = [] } = document.inspection ?? {};
  const offered = ways(document, plan);
  const chosen = offered.find((way) => way.order.join() === (order ?? all).join());
  const choose = (next: readonly number[]) => onRecord([["/inspection/order", next]]);
  const tap = (number: number) => {
    const next = [...(byHand ?? []), number];
    if (next.length < all.length) return setByHand(next);
    setByHand(undefined);
    choose(next);
  };
  const touch = (next: readonly number[]) =>
    onRecord([["/inspection/scope", next.length === all.length || next.length === 0 ? undefined : next]]);
  const left = scope.length > 0 ? all.filter((number) => !scope.includes(number)) : [];
  const few = scope.length <= left.length;
  const said = all.map((number) => ({ value: String(number), label: String(number) }));
  return (
    <section aria-label={t("Order and scope of this job")} className="grid gap-2 print:hidden">
      <h3 className="border-b border-line font-bold">{t("Round the engine")}</h3>
      <Choice
        label={t("In this order: every row, Enter and the arrows follow it")}
        options={offered.map((way) => ({ value: way.id, label: way.label }))}
        value={chosen?.id}
        onChange={(id) => choose(offered.find((way) => way.id === id)?.order ?? all)}
        disabled={disabled}
        absent={t("by hand")}
      />
      <p className="text-sm">
        {t("Now:")}{" "}<b>{worked(document).join(", ")}</b>
      </p>
      {byHand ? (
        <div className="flex flex-wrap items-center gap-1.5" role="group" aria-label={t("Tap them in order")}>
          {all.map((number) => (
            <Button key={number} disabled={byHand.includes(number)} onClick={() => tap(number)}>
              {number}
            </Button>
          ))}
          <Button onClick={() => setByHand(undefined)}>{t("Leave it")}</Button>
        </div>
      ) : (
        <Button className="w-fit" disabled={disabled} onClick={() => setByHand([])}>
          {t("By hand: tap them in order")}
        </Button>
      )}
      {all.length > 1 && (
        <div className="flex flex-wrap gap-x-6 gap-y-2">
          <Tags
            label={t("This job touches only")}
            options={said}
            value={scope.length > 0 && few ? scope.map(String) : undefined}
            onChange={(only = []) => touch(only.map(Number))}
            disabled={disabled}
            absent={scope.length > 0 ? "" : t("all of them")}
          />
          <Tags
            label={t("or all but")}
            options={said}
            value={left.length > 0 && !few ? left.map(String) : undefined}
            onChange={(but = []) => touch(all.filter((number) => !but.includes(String(number))))}
            disabled={disabled}
            absent=""
          />
        </div>
      )}
      {scope.length > 0 && <p className="caption">{t("The others are not part of this job.")}</p>}
    </section>
  );
}
