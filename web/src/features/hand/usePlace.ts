import { useCallback, useEffect, useMemo, useState } from "react";
import { useLocation, useNavigate, useNavigationType, useParams } from "react-router";
import type { Document } from "../../api/client";
import { waiting } from "../round";
import { partsOf, placeOf, roundOf, STEPS, type Part, type Step } from "./steps";

export interface Place {
  /** Those that there are. */
  steps: readonly Step[];
  step: Step;
  part: Part;
  cylinder: number;
  choose: (cylinder: number) => void;
  /** Go to a part, or to a step's first; Back comes back. */
  go: (part: string, cylinder?: number) => void;
  /** To a step by its key; once more, to its next part. */
  press: (key: string) => void;
  turn: (by: 1 | -1) => void;
}

interface At {
  part: string | undefined;
  /** Nobody has chosen one yet: where the hand begins follows from the record. */
  cylinder: number | undefined;
}

/** The address follows a hand that walks along, and need not at each of its steps. */
const ADDRESSED_AFTER_MS = 200;

/**
 * Where the hand is: step, part and cylinder. It is there at once, so that the next key already means
 * the next cylinder; the address follows, and leads back by the browser's own Back.
 */
export function usePlace(home: string, document: Document | undefined, begin: number, steps: readonly Step[] = STEPS): Place {
  const params = useParams();
  const location = useLocation();
  const navigation = useNavigationType();
  const navigate = useNavigate();
  const addressed: At = { part: params["part"], cylinder: Number(params["cylinder"]) || undefined };
  const [at, setAt] = useState(addressed);
  const [seen, setSeen] = useState(location.key);
  // Back and forward are told by the address; everything else was told to it.
  if (location.key !== seen) {
    setSeen(location.key);
    if (navigation === "POP") setAt(addressed);
  }
  const { step, part } = useMemo(() => placeOf(at.part, steps), [at.part, steps]);
  const most = document?.engine.cylinders ?? 0;
  const cylinder = at.cylinder !== undefined && at.cylinder <= most ? at.cylinder : begin;
  const address = `${home}/${part.id}/${cylinder}`;
  const write = useCallback(() => {
    // Who has left meanwhile, while the next page is still being fetched, is not called back.
    if (window.location.pathname.startsWith(home)) window.history.replaceState(window.history.state, "", address);
  }, [home, address]);
  useEffect(() => {
    if (most === 0) return undefined;
    const timer = setTimeout(write, ADDRESSED_AFTER_MS);
    return () => clearTimeout(timer);
  }, [write, most]);
  const go = useCallback(
    (id: string, wanted?: number) => {
      const to = placeOf(id, steps).part;
      const next = wanted ?? (document ? first(document, part, to, cylinder) : cylinder);
      write();
      setAt({ part: to.id, cylinder: next });
      void navigate(`${home}/${to.id}/${next}`);
    },
    [document, part, cylinder, write, navigate, home, steps],
  );
  const parts = useMemo(() => (document ? steps.flatMap((one) => partsOf(one, document)) : []), [document, steps]);
  return {
    steps,
    step,
    part,
    cylinder,
    choose: useCallback((to: number) => setAt((was) => ({ ...was, cylinder: to })), []),
    go,
    press: (key) => {
      const wanted = steps.find((one) => one.key === key);
      if (!wanted || !document) return;
      const own = partsOf(wanted, document);
      const next = own[(own.findIndex((one) => one.id === part.id) + 1) % own.length];
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
  const whole = before && waiting(document, before).length === 0;
  return (round && whole && waiting(document, round)[0]) || cylinder;
}
