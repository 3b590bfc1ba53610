import { t } from "../../language";
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
        {error ? t("{{message}} Load the page again in a moment.", { message: error.message }) : t("One moment ...")}
      </p>
    );
  }
  if (person?.must_enrol) {
    return (
      <Door title={t("One thing first")} says={t("{{shop}} wants everybody to sign in with a second factor.", { shop: person.shop })}>
        <SecondFactor has={false} />
      </Door>
    );
  }
  return person ? <Outlet /> : <SignIn />;
}
