import { t } from "../../language";
import type { ReactNode } from "react";
import type { Inspection } from "../../api/client";
import { useSheet } from "./useSheet";

type Name = Parameters<typeof useSheet>[0];
type Data<S extends Name> = NonNullable<ReturnType<typeof useSheet<S>>["data"]>;

interface Props<S extends Name> {
  of: S;
  inspection: Inspection;
  children: (data: Data<S>) => ReactNode;
}

/** A step that shows what the server works out; says so in its place where nobody answers. */
export function Sheet<S extends Name>({ of, inspection, children }: Props<S>) {
  const { data, error } = useSheet(of, inspection.id, inspection.sequence);
  if (data) return children(data);
  return (
    <p role="status" className="border-l-4 border-ochre pl-2 text-soft">
      {error
        ? t("This step is worked out by the server, which does not answer now. It opens here as soon as it does; what is entered in the other steps is kept.")
        : t("One moment ...")}
    </p>
  );
}
