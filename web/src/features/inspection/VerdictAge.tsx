import { t } from "../../language";
interface Props {
  /** When the server gave what the device has kept; undefined while it answers. */
  since: number | undefined;
  waiting: boolean;
}

/** Where the verdict is older than the record, from when it is. */
export function VerdictAge({ since, waiting }: Props) {
  if (since === undefined) return null;
  const today = new Date(since).toDateString() === new Date().toDateString();
  const when = new Date(since).toLocaleString([], {
    ...(!today && { day: "numeric", month: "short" }),
    hour: "2-digit",
    minute: "2-digit",
  });
  return (
    <p className="border-l-4 border-ochre pl-2 text-sm">
      {t("The verdict is from {{when}}", { when })}
      {waiting && t(", before what waits on this device")}{t("; it is made anew when the server answers.")}
    </p>
  );
}
