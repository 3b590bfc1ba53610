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
    <Question title={`Begin an inspection of ${engine.data.title ?? "this engine"}?`} onClose={onClose}>
      <Choice label="What for" options={PURPOSES} value={purpose} onChange={setPurpose} absent="may be said later" />
      <div className="flex gap-2">
        <Button weight="main" onClick={begin}>
          Begin
        </Button>
        <Button onClick={onClose}>Not now</Button>
      </div>
    </Question>
  );
}
