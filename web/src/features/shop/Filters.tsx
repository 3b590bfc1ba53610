import { Button } from "../../primitives/Button";
import { SelectField, TextField } from "../../primitives/Field";
import { GRADE_WORDS, useFaults } from "../assessment";
import { Columns } from "./Columns";
import { usePeople, type useFound } from "./useFound";

const GRADES = Object.entries(GRADE_WORDS).map(([value, words]) => ({ value, label: `${value}, ${words}` }));

const KEPT = [
  { value: "archived", label: "put by" },
  { value: "removed", label: "deleted, for 30 days" },
] as const;

const ORDERS = [
  { value: "oldest", label: "oldest first" },
  { value: "worst", label: "worst grade first" },
  { value: "engine", label: "by engine" },
  { value: "changed", label: "lately changed first" },
] as const;

/** What to look for among the shop's inspections; everything given has to fit. */
export function Filters({ found }: { found: ReturnType<typeof useFound> }) {
  const faults = useFaults();
  const people = usePeople();
  const { wanted, set } = found;
  return (
    <search className="mb-2 grid grid-cols-[repeat(2,minmax(0,1fr))] items-end gap-2 md:grid-cols-[1.8fr_1fr_1.5fr_1.1fr_auto] xl:grid-cols-[1.6fr_0.8fr_1.3fr_0.9fr_0.8fr_0.8fr_0.9fr_0.9fr_auto_auto]">
      <TextField
        label="Find: name, number, note, part, code"
        type="search"
        value={wanted.q}
        onChange={(event) => set({ q: event.target.value })}
      />
      <SelectField label="Grade" value={wanted.grade} empty="any" options={GRADES} onChange={(grade) => set({ grade })} />
      <SelectField label="Suspected" value={wanted.fault} empty="anything" options={faults} onChange={(fault) => set({ fault })} />
      <SelectField
        label="Inspector"
        value={wanted.inspector}
        empty="anybody"
        options={people.map((one) => ({ value: one.id, label: one.name }))}
        onChange={(inspector) => set({ inspector })}
      />
      <TextField label="From" type="date" value={wanted.since} onChange={(event) => set({ since: event.target.value })} />
      <TextField label="To" type="date" value={wanted.until} onChange={(event) => set({ until: event.target.value })} />
      <SelectField label="Among" value={wanted.kept} empty="those at hand" options={KEPT} onChange={(kept) => set({ kept })} />
      <SelectField label="Order" value={wanted.order} empty="newest first" options={ORDERS} onChange={(order) => set({ order })} />
      <Columns />
      <Button disabled={!found.asking} onClick={found.clear}>
        All
      </Button>
    </search>
  );
}
