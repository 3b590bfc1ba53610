import { t } from "../../language";
import { useState } from "react";
import type { Plan } from "../../api/client";
import { Button } from "../../primitives/Button";
import { Tick } from "../../primitives/Tick";
import type { Entries, Recorder } from "../record";
import { Block } from "./Block";

interface Props {
  recorder: Recorder;
  plan: Plan;
  /** Give the cylinders other numbers: the present ones, in the order of the new; and what is said with it. */
  onRenumber: (order: readonly number[], alongside: Entries) => void;
}

/** Numbering anew by tapping the stations in the order of their numbers: 1 first, then 2, and so on. */
export function Numbering({ recorder, plan, onRenumber }: Props) {
  const { document, disabled } = recorder;
  const firing = document.engine.firing_order;
  const [follows, setFollows] = useState(true);
  const [tapped, setTapped] = useState<readonly number[] | undefined>();
  const count = plan.stations.length;
  const tap = (old: number) => {
    if (!tapped || tapped.includes(old)) return;
    const next = [...tapped, old];
    if (next.length < count) return setTapped(next);
    setTapped(undefined);
    const turned = firing?.map((number) => next.indexOf(number) + 1);
    onRenumber(next, follows && turned ? [["/engine/firing_order", turned]] : []);
  };
  return (
    <section aria-label={t("Numbering")} className="mt-2 grid gap-2">
      <h3 className="border-b border-line font-bold">{t("Which is number 1?")}</h3>
      <p className="text-sm">
        {t("On most vee engines the bank that sits further towards the engine’s own front holds number 1; the front of the machine that it sits in says nothing. Makers differ: some alternate, some number bank by bank, some count from the flywheel. Go by the maker’s drawing.")}
      </p>
      {tapped ? (
        <>
          <p role="status" className="font-medium">
            {t("Tap what is cylinder {{count}}.", { count: tapped.length + 1 })}
          </p>
          <Block plan={plan} radial={document.engine.layout === "radial"} label={t("Number again")} compact>
            {(old) => {
              const at = tapped.indexOf(old);
              return (
                <button
                  type="button"
                  onClick={() => tap(old)}
                  disabled={at >= 0}
                  aria-label={at >= 0 ? t("now {{at}}, was {{old}}", { at: at + 1, old }) : t("was {{old}}", { old })}
                  className="grid size-full place-items-center rounded-lg border-2 border-line bg-sheet disabled:border-teal"
                >
                  <b className="text-lg">{at >= 0 ? at + 1 : "?"}</b>
                  <span className="caption">{t("was {{old}}", { old })}</span>
                </button>
              );
            }}
          </Block>
          {firing && (
            <Tick checked={follows} onChange={setFollows} className="text-sm">
              {t("The firing order {{firing}} moves with its cylinders. Off: it is printed in the new numbers, and stays.", { firing: firing.join(" ") })}
            </Tick>
          )}
          <Button onClick={() => setTapped(undefined)}>{t("Leave it as it was")}</Button>
        </>
      ) : (
        <Button disabled={disabled} onClick={() => setTapped([])}>
          {t("Number the cylinders again")}
        </Button>
      )}
      <p className="caption">{t("Everything recorded moves with its cylinder, photos too; undo takes it back.")}</p>
    </section>
  );
}
