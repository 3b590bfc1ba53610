import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { askAgain } from "../../api/again";
import { importDocument, Refused } from "../../api/client";
import { Button } from "../../primitives/Button";

/** Take an inspection file in, dragged or chosen; what is wrong with it is named place by place. */
export function ImportDrop() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const chooser = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const taking = useMutation({
    mutationFn: importDocument,
    onSuccess: (inspection) => {
      void askAgain(queries, ["inspections"]);
      void navigate(`/inspections/${inspection.id}`);
    },
  });
  const takeFirst = (files: FileList | null) => {
    const file = files?.[0];
    if (file) taking.mutate(file);
  };
  const problems = taking.error instanceof Refused ? taking.error.problems : [];
  return (
    <section
      aria-label="Import"
      className={`sheet self-start border-2 border-dashed p-4 ${over ? "border-teal bg-wash" : ""}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        takeFirst(event.dataTransfer.files);
      }}
    >
      <h2 className="text-lg font-bold">Import an inspection</h2>
      <p className="mb-2 text-sm text-soft">Drop a JSON file here, or choose one.</p>
      <input
        ref={chooser}
        type="file"
        accept=".json,application/json"
        className="sr-only"
        aria-label="Inspection file"
        onChange={(event) => {
          takeFirst(event.target.files);
          event.target.value = "";
        }}
      />
      <Button disabled={taking.isPending} onClick={() => chooser.current?.click()}>
        {taking.isPending ? "Reading ..." : "Choose a file"}
      </Button>
      {taking.error && (
        <div role="alert" className="mt-3 text-sm">
          <p className="font-medium text-rust">
            {problems.length > 0 ? "Nothing was imported. The file says:" : taking.error.message}
          </p>
          <ul className="mt-1 grid gap-1">
            {problems.map((one) => (
              <li key={`${one.path} ${one.value}`}>
                <code className="font-bold">{one.path || "the whole file"}</code>: expected {one.expected}
                {one.value !== "None" && `, found ${one.value}`}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}
