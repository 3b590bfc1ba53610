/** What was kept is weighed afterwards: the last word of an inspection once, however many were said. */
import type { QueryClient } from "@tanstack/react-query";
import { api, Refused, take, type Assessment, type EntryAnswer, type Inspection } from "../../api/client";
import { t } from "../../language";
import { keep, kept } from "../../storage/kept";
import { unweighed } from "./unweighed";
import { newer, type Told } from "./useRecording";

const ASKED_AGAIN_MS = 2_000;

/** What tells the screen of an inspection that was kept, and then of what follows from it. */
export function weighing(queries: QueryClient): (answer: EntryAnswer) => void {
  const asking = new Set<string>();
  const known = (id: string) => queries.getQueryData<Told>(["inspection", id])?.inspection;
  const tell = (inspection: Inspection) => {
    queries.setQueryData<Told>(["inspection", inspection.id], (old) => newer(old, { inspection }));
    void keep(keptAs(inspection.id), inspection);
  };

  async function weigh(id: string): Promise<void> {
    if (asking.has(id)) return;
    asking.add(id);
    let again = false;
    const params = { path: { inspection_id: id } };
    try {
      if (!known(id)) await keep(keptAs(id), await take(api.GET("/api/inspections/{inspection_id}", { params })));
      for (let shown = known(id); shown && shown.weighed < shown.sequence; shown = known(id)) {
        const told = await take(api.GET("/api/inspections/{inspection_id}/weighed", { params }));
        const now = known(id);
        if (now) tell({ ...now, weighed: told.sequence, assessment: advised(told.assessment, now) });
      }
    } catch (error) {
      again = error instanceof Refused && error.passing;
    } finally {
      asking.delete(id);
    }
    if (again) setTimeout(() => void weigh(id), ASKED_AGAIN_MS);
  }

  return (answer) => {
    const shown = known(answer.id);
    if (shown) tell(after(answer, shown));
    else void keepUnseen(answer);
    void weigh(answer.id);
  };
}

/** An inspection of which something was kept; what was told of it stands until it is weighed again. */
function after(answer: EntryAnswer, shown: Inspection): Inspection {
  const { assessment, ...recorded } = answer;
  if (assessment) return { ...recorded, assessment: advised(assessment, shown) };
  const turned = recorded.numbering.join() !== shown.numbering.join();
  const last = turned ? unweighed(recorded.document, t("Numbered anew. It is weighed again as soon as the server answers.")) : shown.assessment;
  return { ...recorded, weighed: shown.weighed, assessment: last };
}

/** What to test next follows with the reasons; until then the last advice stands. */
function advised(fresh: Assessment, shown: Inspection): Assessment {
  return { ...fresh, next_tests: shown.assessment.next_tests };
}

/** Nobody looks at it: what this device keeps of it is to hold what it sent all the same. */
async function keepUnseen(answer: EntryAnswer): Promise<void> {
  const key = keptAs(answer.id);
  const last = (await kept<Inspection>(key))?.answer;
  if (last && last.sequence <= answer.sequence) await keep(key, after(answer, last));
}

export function keptAs(id: string): string {
  return `inspection ${id}`;
}
