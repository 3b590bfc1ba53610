import { lazy, Suspense, useState } from "react";
import { Button } from "../../primitives/Button";
import { useSummary } from "../../queue";
import { useSignOut } from "../session/useSession";

const Question = lazy(() => import("./SignOutQuestion"));

/** Ends the session at once; where entries wait, it asks first what is to become of them. */
export function SignOut() {
  const { waiting, aside } = useSummary();
  const signOut = useSignOut();
  const [asking, setAsking] = useState(false);
  return (
    <>
      <Button onClick={() => (waiting + aside > 0 ? setAsking(true) : signOut())}>Sign out</Button>
      {asking && (
        <Suspense>
          <Question onClose={() => setAsking(false)} onSignOut={signOut} />
        </Suspense>
      )}
    </>
  );
}
