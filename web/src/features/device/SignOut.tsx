import { t } from "../../language";
import { useState } from "react";
import { Button } from "../../primitives/Button";
import { Question } from "../../primitives/Question";
import { queue, senderOf, useQueue, useSummary } from "../../queue";
import { useSignOut } from "../session/useSession";
import { exportEntries } from "./export";
import { entries } from "./words";

/** Ends the session at once; where entries wait, it asks first what is to become of them. */
export function SignOut() {
  const state = useQueue();
  const { waiting, aside } = useSummary();
  const signOut = useSignOut();
  const [asking, setAsking] = useState(false);
  const here = waiting + aside;
  const own = () => state.held.map((one) => one.entry).filter((one) => senderOf(one).id === state.person?.id);
  return (
    <>
      <Button onClick={() => (here > 0 ? setAsking(true) : signOut())}>{t("Sign out")}</Button>
      {asking && (
        <Question
          title={here > 0 ? t("{{here}} of yours {{part}} only on this device", { here: entries(here), part: here === 1 ? "is" : "are" }) : t("Everything is saved")}
          onClose={() => setAsking(false)}
        >
          {here > 0 && (
            <p>
              {t("What is not sent stays here, locked to you: nobody else can send or read it, and it goes out when you sign in on this device again.")}
            </p>
          )}
          {state.trouble && <p className="text-sm text-rust">{state.trouble}</p>}
          <div className="flex flex-wrap gap-2">
            {waiting > 0 && <Button onClick={queue.retry}>{t("Send now")}</Button>}
            {here > 0 && <Button onClick={() => void exportEntries(own())}>{t("Export to a file")}</Button>}
            <Button weight="main" onClick={signOut}>
              {here > 0 ? t("Keep them locked and sign out") : t("Sign out")}
            </Button>
            <Button onClick={() => setAsking(false)}>{t("Stay")}</Button>
          </div>
        </Question>
      )}
    </>
  );
}
