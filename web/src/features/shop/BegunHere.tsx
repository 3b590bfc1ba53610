import { t } from "../../language";
import { Link } from "react-router";
import { useQueue, type AddEngine, type Begin } from "../../queue";

/** What the signed-in person began here and the server does not know yet. */
function useBegun(): readonly Begin[] {
  const { held, person } = useQueue();
  const own = held.filter(({ entry }) => entry.author.id === person?.id);
  return own.flatMap(({ entry: { act } }) => (act.kind === "begin" ? [act] : []));
}

/** Engines that were described here and are not in the shop's list yet, as the list has them. */
export function useEnginesHere() {
  const { held, person } = useQueue();
  const begun = useBegun();
  const added = held.flatMap(({ entry: { act, author } }) =>
    act.kind === "engine" && author.id === person?.id ? [act] : [],
  );
  return added.flatMap((act: AddEngine) => {
    const plan = begun.find((one) => one.engine === act.engine)?.plan;
    return plan ? [{ id: act.engine, title: act.data.title ?? "", identifier: act.data.identifier ?? "", data: act.data, plan }] : [];
  });
}

/** Inspections that were begun here and wait to be sent: they open like any other. */
export function BegunHere() {
  const begun = useBegun();
  if (begun.length === 0) return null;
  return (
    <section aria-label={t("Begun on this device")} className="sheet mb-3 border-l-4 border-ochre px-3 py-2">
      <h2 className="font-bold">{t("Begun on this device, not sent yet")}</h2>
      <ul>
        {begun.map((one) => (
          <li key={one.inspection}>
            <Link to={`/inspections/${one.inspection}`} className="target flex min-h-9 items-center gap-2 hover:underline">
              <time className="caption">{one.date}</time>
              {one.document.engine.title}
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
