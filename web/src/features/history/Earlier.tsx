import { t } from "../../language";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, take } from "../../api/client";
import { askOrRecall } from "../../storage/kept";
import { GradeMark } from "../assessment";
import type { Grade } from "../assessment/GradeMark";

/** The same engine's other inspections, at hand while this one is recorded. */
export function Earlier({ engine, inspection }: { engine: string; inspection: string }) {
  const { data } = useQuery({
    queryKey: ["inspections", engine],
    queryFn: () =>
      askOrRecall(`inspections ${engine}`, () => take(api.GET("/api/inspections", { params: { query: { engine } } }))),
  });
  const others = data?.filter((row) => row.id !== inspection) ?? [];
  return (
    <section aria-label={t("Other inspections of this engine")} className="mt-2">
      <h3 className="mb-1 border-b border-line font-bold">{t("Other inspections of this engine")}</h3>
      {others.length === 0 && <p className="caption">{t("None yet: this is the first.")}</p>}
      <ul>
        {others.map((row) => (
          <li key={row.id}>
            <Link to={`/inspections/${row.id}`} className="target flex min-h-10 items-center gap-2 hover:bg-wash">
              <GradeMark grade={row.grade as Grade} className="size-7" />
              <time className="caption whitespace-nowrap">{row.date}</time>
              <span className="text-sm">{row.verdict}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
