import { t } from "../../language";
import { Link, useParams } from "react-router";
import { usePageTitle } from "../../app/usePageTitle";
import { STEPS } from "../hand";
import { pageOf } from "./pages";

/** The user's guide: one short page for each step of the job. */
export function GuidePage() {
  const { step = "story" } = useParams();
  const known = STEPS.find((one) => one.id === step) ?? STEPS[0];
  const page = known && pageOf(known.id);
  usePageTitle(known ? t("Guide: {{label}}", { label: known.label }) : t("Guide"));
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-5 md:grid-cols-[11rem_minmax(0,1fr)]">
      <nav aria-label={t("Steps")} className="sheet p-2">
        <ol className="flex flex-wrap gap-1 md:grid">
          {STEPS.map((one) => (
            <li key={one.id}>
              <Link
                to={`/guide/${one.id}`}
                aria-current={one.id === known?.id ? "page" : undefined}
                className="target block rounded-md px-2 py-1.5 hover:bg-wash aria-[current=page]:bg-teal aria-[current=page]:text-sheet"
              >
                {one.label}
              </Link>
            </li>
          ))}
        </ol>
      </nav>
      <article className="guide sheet p-4" dangerouslySetInnerHTML={{ __html: page ?? "" }} />
    </div>
  );
}
