import { useId } from "react";
import type { Group } from "./fields";
import { FieldEntry, type Recorder } from "./FieldEntry";

interface Props {
  /** Side by side on a desk, one after the other on a phone. */
  columns: readonly (readonly Group[])[];
  recorder: Recorder;
}

/** Groups of fields in columns; a caution stands before what it belongs to. */
export function FieldGroups({ columns, recorder }: Props) {
  return (
    <div className="grid gap-x-6 xl:auto-cols-fr xl:grid-flow-col">
      {columns.map((groups) => (
        <div key={groups[0]?.title} className="min-w-0">
          {groups.map((group) => (
            <FieldGroup key={group.title} group={group} recorder={recorder} />
          ))}
        </div>
      ))}
    </div>
  );
}

function FieldGroup({ group, recorder }: { group: Group; recorder: Recorder }) {
  const id = useId();
  return (
    <section aria-labelledby={id} className="mb-4 grid gap-2.5">
      <h3 id={id} className="border-b border-line font-bold">
        {group.title}
      </h3>
      {group.caution && <p className="border-l-4 border-ochre pl-2 text-sm">{group.caution}</p>}
      {group.fields.map((field) => (
        <FieldEntry key={field.path} field={field} recorder={recorder} />
      ))}
    </section>
  );
}
