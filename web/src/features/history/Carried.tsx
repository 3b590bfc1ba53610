import { t } from "../../language";
import { useQuery } from "@tanstack/react-query";
import { api, take } from "../../api/client";
import { Button } from "../../primitives/Button";
import { askOrRecall } from "../../storage/kept";
import type { Recorder } from "../record";

interface Props {
  inspection: string;
  sequence: number;
  recorder: Recorder;
}

/** What the last inspections of this engine taught: offered, taken by one tap, never asserted. */
export function Carried({ inspection, sequence, recorder }: Props) {
  const { data } = useQuery({
    queryKey: ["carried", inspection, sequence],
    queryFn: () =>
      askOrRecall(`carried ${inspection}`, () =>
        take(api.GET("/api/inspections/{inspection_id}/carried", { params: { path: { inspection_id: inspection } } })),
      ),
    placeholderData: (before) => before,
    retry: false,
  });
  if (!data || data.offers.length + data.renewed.length + data.left_open.length === 0) return null;
  const accept = (offers: typeof data.offers) =>
    recorder.onRecord(offers.flatMap((one) => one.entries.map(([path, value]) => [String(path), value] as const)));
  return (
    <section aria-label={t("From last time")} className="mt-2 mb-4 grid gap-2">
      <h3 className="border-b border-line font-bold">{t("From last time")}</h3>
      <ul className="grid gap-1">
        {data.offers.map((one) => (
          <li key={one.id} className="grid grid-cols-[1fr_auto] items-center gap-2">
            <p className="min-w-0 text-sm">
              <b>{one.title}</b>: {one.text} <span className="caption">{one.date}</span>
            </p>
            <Button disabled={recorder.disabled} aria-label={t("Take over: {{title}}", { title: one.title })} onClick={() => accept([one])}>
              {t("Take over")}
            </Button>
          </li>
        ))}
      </ul>
      {data.offers.length > 1 && (
        <Button className="w-fit" disabled={recorder.disabled} onClick={() => accept(data.offers)}>
          {t("Take over all of it")}
        </Button>
      )}
      {data.renewed.length > 0 && <Lines title={t("Renewed before")} lines={data.renewed} />}
      {data.left_open.length > 0 && <Lines title={t("Left open")} lines={data.left_open} />}
    </section>
  );
}

function Lines({ title, lines }: { title: string; lines: readonly string[] }) {
  return (
    <div className="text-sm">
      <h4 className="caption">{title}</h4>
      <ul>
        {lines.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
    </div>
  );
}
