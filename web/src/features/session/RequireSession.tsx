import { Outlet } from "react-router";
import { SignIn } from "./SignIn";
import { useSession } from "./useSession";

/** The pages for people of a shop, or the door. */
export function RequireSession() {
  const { person, error } = useSession();
  if (person === undefined) {
    return (
      <p className="p-6" role="status">
        {error ? `${error.message} Load the page again in a moment.` : "One moment ..."}
      </p>
    );
  }
  return person ? <Outlet /> : <SignIn />;
}
