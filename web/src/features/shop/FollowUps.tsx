import { t } from "../../language";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, take } from "../../api/client";
import { askOrRecall } from "../../storage/kept";
import { today } from "../../storage/today";

/** What is to be looked at again, and whether that is known yet: what stands below waits for it. */
export function useFollowUps() {
  const { data, isPending } = useQuery({
    queryKey: ["inspections", "due"],
    queryFn: () =>
      askOrRecall("inspections-due", () => take(api.GET("/api/inspections", { params: { query: { due: true } } }))),
    staleTime: 0,
    retry: false,
  });
  return { data, settled: !isPending };
}

/** Repairs that somebody promised to look at again, the earliest first. */
export function FollowUps() {
  const { data } = useFollowUps();
  if (!data?.length) return null;
  return (
    <section aria-label={t("To look at again")} className="sheet mb-3 px-3 py-2">
      <h2 className="font-bold">{t("To look at again")}</h2>
      <ul className="flex flex-wrap gap-x-6">
        {data.map((row) => (
          <li key={row.id}>
            <Link to={`/inspections/${row.id}`} className="target flex min-h-9 items-center gap-2 hover:underline">
              <time className={row.follow_up && row.follow_up <= today() ? "font-bold text-rust" : "caption"}>{row.follow_up}</time>
              {row.title}
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
