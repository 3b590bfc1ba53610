import { useEffect, useRef } from "react";
import type { Acting } from "../round";
import { chosenBy, type Pending } from "./digits";
import { meaningOf, whereOf, type Meaning } from "./meaning";
import { useSingleKeys } from "./singleKeys";

interface Hand {
  acting: Acting;
  cylinders: number;
  onChoose: (cylinder: number) => void;
  onStep: (key: string) => void;
  onTurn: (by: 1 | -1) => void;
  onUndo: (() => void) | undefined;
  onRedo: (() => void) | undefined;
  onHelp: () => void;
  onSay: () => void;
  onAloud: () => void;
}

/** The keyboard of the workbench: one listener, one table (meaning.ts), whatever has the focus. */
export function useHand(hand: Hand): void {
  const [singleKeys] = useSingleKeys();
  const pending = useRef<Pending | undefined>(undefined);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      // What is asked in a dialog is between the person and it: nothing behind it moves.
      const elsewhere = event.defaultPrevented || document.querySelector("dialog[open]") !== null;
      const meaning = elsewhere ? undefined : meaningOf(event, whereOf(event.target), singleKeys);
      const before = pending.current;
      // Only a digit right after a digit makes a number of two.
      pending.current = meaning?.do === "digit" ? { digit: meaning.digit, at: event.timeStamp } : undefined;
      if (meaning && follow(meaning, hand, before, event)) event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [hand, singleKeys]);
}

/** Do what a key asks for; false where it asks for nothing here. */
function follow(meaning: Meaning, hand: Hand, pending: Pending | undefined, event: KeyboardEvent): boolean {
  const { acting } = hand;
  if (meaning.do !== "answer") acting.settle();
  switch (meaning.do) {
    case "digit": {
      const chosen = chosenBy(meaning.digit, event.timeStamp, hand.cylinders, pending);
      if (chosen !== undefined) hand.onChoose(chosen);
      return true;
    }
    case "step":
      hand.onStep(meaning.key);
      return true;
    case "turn":
      hand.onTurn(meaning.by);
      return true;
    case "walk":
      if (meaning.by < 0) acting.back();
      else if (acting.following !== undefined) acting.next();
      return true;
    case "next":
      acting.next();
      return true;
    case "answer": {
      const answer = acting.round?.answers.find((one) => one.key === meaning.key);
      if (answer && !event.repeat) acting.answer(answer, event.timeStamp);
      return answer !== undefined;
    }
    case "same":
      if (!event.repeat) acting.same?.();
      return true;
    case "alike":
      if (!event.repeat) acting.alike?.();
      return true;
    case "figure":
      acting.figure.current?.focus();
      acting.figure.current?.select();
      return true;
    case "details":
      acting.details.current?.();
      return true;
    case "undo":
      hand.onUndo?.();
      return true;
    case "redo":
      hand.onRedo?.();
      return true;
    case "leave":
      acting.adding.leave();
      return false;
    case "help":
      hand.onHelp();
      return true;
    case "say":
      hand.onSay();
      return true;
    case "aloud":
      hand.onAloud();
      return true;
  }
}
