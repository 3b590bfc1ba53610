import { t } from "../../language";
import { useNavigate } from "react-router";
import type { Inspection } from "../../api/client";
import { Button } from "../../primitives/Button";
import { again, beginInspection } from "../inspection/begin";
import type { Recorder } from "../record";

/** The next inspection of the same engine, begun as this one was: purpose, order, scope, what is in hand. */
export function Again({ recorder, inspection }: { recorder: Recorder; inspection: Inspection }) {
  const navigate = useNavigate();
  const { document } = recorder;
  const begin = () => {
    const engine = { id: inspection.engine, data: document.engine, plan: inspection.plan };
    void navigate(`/inspections/${beginInspection(engine, again(document.inspection ?? {}))}`);
  };
  return (
    <Button className="mt-3" onClick={begin}>
      {t("Inspect it again, in the same way")}
    </Button>
  );
}
