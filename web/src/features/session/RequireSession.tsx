import { useEffect } from "react";
import { Outlet } from "react-router";
import { SecondFactor } from "../people/SecondFactor";
import { Door } from "./Door";
import { SignIn } from "./SignIn";
import { useSession } from "./useSession";

interface Props {
  /** Makes the device ready to work without a network, once somebody is there. */
  onArrived: () => Promise<void>;
}

/** The pages for people of a shop, or the door. */
export function RequireSession({ onArrived }: Props) {
  const { person, error } = useSession();
  const id = person?.id;
  const must = person?.must_enrol;
  useEffect(() => {
    if (id !== undefined && !must) void onArrived();
  }, [id, must, onArrived]);
  if (person === undefined) {
    return (
      <p className="p-6" role="status">
        {error ? `${error.message} Load the page again in a moment.` : "One moment ..."}
      </p>
    );
  }
  if (person?.must_enrol) {
    return (
      <Door title="One thing first" says={`${person.shop} wants everybody to sign in with a second factor.`}>
        <SecondFactor has={false} />
      </Door>
    );
  }
  return person ? <Outlet /> : <SignIn />;
}
