import { startTransition, useCallback, useMemo } from "react";
import { useNavigate, useParams } from "react-router";
import type { Document } from "../../api/client";
import { worked } from "../bench";
import { answered, open } from "../round";
import { partsOf, placeOf, roundOf, STEPS, type Part, type Step } from "./steps";

export interface Place {
  step: Step;
  part: Part;
  /** The cylinder that the address names. */
  named: number | undefined;
  choose: (cylinder: number) => void;
  /** Go to a part, or to a step's first; Back comes back. */
  go: (part: string, cylinder?: number) => void;
  /** To a step by its key; once more, to its next part. */
  press: (key: string) => void;
  turn: (by: 1 | -1) => void;
}

/** Where the hand is: step, part and cylinder, kept in the address. */
export function usePlace(inspection: string, document: Document | undefined, cylinder: number): Place {
  const { part: named, cylinder: number } = useParams();
  const navigate = useNavigate();
  const { step, part } = useMemo(() => placeOf(named), [named]);
  const address = useCallback(
    (id: string, at: number | undefined) => `/inspections/${inspection}/${id}${at === undefined ? "" : `/${at}`}`,
    [inspection],
  );
  const go = useCallback(
    (id: string, at?: number) => {
      const to = at ?? (document && first(document, part, placeOf(id).part, cylinder));
      // The step stays as it is until the next one has been fetched.
      startTransition(() => void navigate(address(id, to ?? cylinder)));
    },
    [document, part, cylinder, navigate, address],
  );
  const parts = useMemo(() => (document ? STEPS.flatMap((one) => partsOf(one, document)) : []), [document]);
  return {
    step,
    part,
    named: number === undefined ? undefined : Number(number),
    choose: useCallback((to: number) => void navigate(address(part.id, to), { replace: true }), [navigate, address, part.id]),
    go,
    press: (key) => {
      const wanted = STEPS.find((one) => one.key === key);
      if (!wanted || !document) return;
      const own = partsOf(wanted, document);
      const at = own.findIndex((one) => one.id === part.id);
      const next = own[(at + 1) % own.length];
      if (next) go(next.id);
    },
    turn: (by) => {
      const next = parts[parts.findIndex((one) => one.id === part.id) + by];
      if (next) go(next.id);
    },
  };
}

/** Where a round begins: at the first that is open, after a round that is whole; else nobody moves. */
function first(document: Document, left: Part, entered: Part, cylinder: number): number {
  const before = roundOf(left, document);
  const round = roundOf(entered, document);
  const whole = before && worked(document).every((number) => answered(document, before, number));
  return (round && whole && open(document, round)[0]) || cylinder;
}
