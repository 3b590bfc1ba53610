import { t } from "../../language";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, take, type Schemas } from "../../api/client";
import { Button } from "../../primitives/Button";
import { askOrRecall } from "../../storage/kept";
import { useWords } from "../assessment";
import { useSession } from "../session/useSession";

const share = (part: number, whole: number) => (whole ? `${Math.round((100 * part) / whole)}\u00a0%` : t("none yet"));

/** How the shop's predictions turned out, against what was found and the inspectors' own guesses. */
export function TrackRecord() {
  const { data } = useQuery({
    queryKey: ["record"],
    queryFn: () => askOrRecall("record", () => take(api.GET("/api/shop/record"))),
    staleTime: 0,
    retry: false,
  });
  if (!data) return null;
  return (
    <section aria-label={t("The shop's own record")}>
      <h2 className="mb-2 text-lg font-bold">{t("How it turned out")}</h2>
      <div className="sheet grid gap-2 p-3">
        {data.cylinders === 0 ? (
          <p className="text-soft">
            {t("No outcome is recorded yet. When an engine comes apart, say under Hand over what it was; the record of hits and misses grows here.")}
          </p>
        ) : (
          <>
            <dl className="grid grid-cols-[1fr_auto] gap-x-4">
              <dt>{t("First guess right, of {{cylinders}} cylinders", { cylinders: data.cylinders })}</dt>
              <dd className="text-right font-bold">{share(data.hits, data.cylinders)}</dd>
              <dt>{t("Among the first three")}</dt>
              <dd className="text-right font-bold">{share(data.among_three, data.cylinders)}</dd>
              <dt>{t("The inspectors' own first guess, of {{inspector_guesses}}", { inspector_guesses: data.inspector_guesses })}</dt>
              <dd className="text-right font-bold">{share(data.inspector_hits, data.inspector_guesses)}</dd>
              <dt>{t("Brier score, beside the base rate's")}</dt>
              <dd className="text-right font-bold">
                {data.brier} <span className="caption">{data.brier_of_base_rate}</span>
              </dd>
            </dl>
            <table className="text-sm">
              <caption className="caption text-left">{t("How often claims held")}</caption>
              <tbody>
                {data.calibration.map((row) => (
                  <tr key={row.low} className="border-t border-line">
                    <td className="py-0.5">
                      {t("{{low}} to {{high}} %", { low: row.low * 100, high: row.high * 100 })}
                    </td>
                    <td className="relative w-2/5">
                      <i className="absolute inset-y-1 left-0 bg-wash" style={{ width: `${row.claimed * 100}%` }} />
                      <i className="absolute inset-y-2 left-0 bg-teal" style={{ width: `${row.held * 100}%` }} />
                    </td>
                    <td className="text-right">
                      {t("said {{claimed}}, held {{held}} % ", { claimed: Math.round(row.claimed * 100), held: Math.round(row.held * 100) })}
                      <span className="caption">{t("of {{claims}}", { claims: row.claims })}</span>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {data.misled.length > 0 && (
              <p className="text-sm">
                <b>{t("Misled most:")}</b> {data.misled.map((one) => `${one.finding} (${one.times})`).join("; ")}.
              </p>
            )}
            <OwnOdds proposed={data.proposed} wanted={data.wanted} />
            <a className="target w-fit text-teal underline" href="/api/shop/record.csv" download>
              {t("As CSV, a row a cylinder")}
            </a>
          </>
        )}
      </div>
    </section>
  );
}

interface OwnOddsProps {
  proposed: Schemas["TrackRecord"]["proposed"];
  /** Cylinders of a kind that have to be known before anything is proposed. */
  wanted: number;
}

/** What the shop's own outcomes say of how common faults are: shown before and after, never in force by itself. */
function OwnOdds({ proposed, wanted }: OwnOddsProps) {
  const words = useWords();
  const { person } = useSession();
  const queries = useQueryClient();
  const force = useMutation({
    mutationFn: async () => {
      const { rules } = await take(api.GET("/api/shop/rules"));
      const odds = structuredClone(rules.odds ?? {});
      for (const one of proposed) odds[one.cycle] = { ...odds[one.cycle], [one.fault]: one.factor };
      return take(api.PUT("/api/shop/rules", { body: { rules: { ...rules, odds } } }));
    },
    onSuccess: () => Promise.all([queries.invalidateQueries({ queryKey: ["rules"] }), queries.invalidateQueries({ queryKey: ["record"] })]),
  });
  if (proposed.length === 0)
    return (
      <p className="caption">
        {force.isSuccess
          ? t("In force for inspections opened from now on; the house rules take it back.")
          : t("From {{wanted}} known cylinders of a kind on, odds of your own are proposed where the claims were off.", { wanted })}
      </p>
    );
  return (
    <>
      <table className="text-sm">
        <caption className="caption text-left">
          {t("How common it is here: what the claims added up to, what was found, and what your own odds would be")}
        </caption>
        <tbody>
          {proposed.map((one) => (
            <tr key={one.cycle + one.fault} className="border-t border-line">
              <th className="py-0.5 text-left font-normal">
                {words.fault(one.fault)} <span className="caption">{one.cycle}</span>
              </th>
              <td className="text-right">
                {t("claimed {{claimed}}, found {{found}}", { claimed: Math.round(one.claimed), found: one.found })}{" "}<span className="caption">{t("of {{places}}", { places: one.places })}</span>
              </td>
              <td className="text-right">
                {t("{{before}} to", { before: share(one.before, 1) })}{" "}<b>{share(one.after, 1)}</b>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {person?.role === "owner" ? (
        <Button disabled={force.isPending} onClick={() => force.mutate()}>
          {t("Put these odds in force")}
        </Button>
      ) : (
        <p className="caption">{t("The owner may put them in force.")}</p>
      )}
      {force.error && (
        <p role="alert" className="text-sm text-rust">
          {force.error.message}
        </p>
      )}
    </>
  );
}
