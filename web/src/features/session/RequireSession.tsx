import { useEffect } from "react";
import { Outlet } from "react-router";
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
  useEffect(() => {
    if (id !== undefined) void onArrived();
  }, [id, onArrived]);
  if (person === undefined) {
    return (
      <p className="p-6" role="status">
        {error ? `${error.message} Load the page again in a moment.` : "One moment ..."}
      </p>
    );
  }
  return person ? <Outlet /> : <SignIn />;
}
