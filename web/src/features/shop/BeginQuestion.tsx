import { t } from "../../language";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Document } from "../../api/client";
import { Button } from "../../primitives/Button";
import { Choice } from "../../primitives/Choice";
import { Question } from "../../primitives/Question";
import { beginInspection, type Known } from "../inspection/begin";
import { options } from "../record";

type Purpose = NonNullable<NonNullable<Document["inspection"]>["purpose"]>;

const PURPOSES = options<Purpose>("pre-purchase", "rebuild", "diagnosis", "routine");

/** Before an empty inspection is made: of which engine, and what for. */
export function BeginQuestion({ engine, onClose }: { engine: Known; onClose: () => void }) {
  const navigate = useNavigate();
  const [purpose, setPurpose] = useState<Purpose | undefined>();
  const begin = () => void navigate(`/inspections/${beginInspection(engine, purpose && { purpose })}`);
  return (
    <Question title={t("Begin an inspection of {{title}}?", { title: engine.data.title ?? t("this engine") })} onClose={onClose}>
      <Choice label={t("What for")} options={PURPOSES} value={purpose} onChange={setPurpose} absent={t("may be said later")} />
      <div className="flex gap-2">
        <Button weight="main" onClick={begin}>
          {t("Begin")}
        </Button>
        <Button onClick={onClose}>{t("Not now")}</Button>
      </div>
    </Question>
  );
}
