import { t } from "../../language";
import { Button } from "../../primitives/Button";
import { SelectField, TextField } from "../../primitives/Field";
import { GRADE_WORDS, useFaults } from "../assessment";
import { useWide } from "../../primitives/useWide";
import { Columns } from "./Columns";
import { usePeople, type useFound } from "./useFound";

const GRADES = Object.entries(GRADE_WORDS).map(([value, words]) => ({ value, label: `${value}, ${words}` }));

const KEPT = [
  { value: "archived", label: t("put by") },
  { value: "removed", label: t("deleted, for 30 days") },
] as const;

const ORDERS = [
  { value: "oldest", label: t("oldest first") },
  { value: "worst", label: t("worst grade first") },
  { value: "engine", label: t("by engine") },
  { value: "changed", label: t("lately changed first") },
] as const;

/** What to look for among the shop's inspections; everything given has to fit. On a phone, most of it is folded. */
export function Filters({ found }: { found: ReturnType<typeof useFound> }) {
  const faults = useFaults();
  const people = usePeople();
  const wide = useWide();
  const { wanted, set } = found;
  const find = (
    <TextField
      label={t("Find: name, number, note, part, code")}
      type="search"
      value={wanted.q}
      onChange={(event) => set({ q: event.target.value })}
    />
  );
  const rest = (
    <>
      <SelectField label={t("Grade")} value={wanted.grade} empty={t("any")} options={GRADES} onChange={(grade) => set({ grade })} />
      <SelectField label={t("Suspected")} value={wanted.fault} empty={t("anything")} options={faults} onChange={(fault) => set({ fault })} />
      <SelectField
        label={t("Inspector")}
        value={wanted.inspector}
        empty={t("anybody")}
        options={people.map((one) => ({ value: one.id, label: one.name }))}
        onChange={(inspector) => set({ inspector })}
      />
      <SelectField label={t("Order")} value={wanted.order} empty={t("newest first")} options={ORDERS} onChange={(order) => set({ order })} />
      <TextField label={t("From")} type="date" value={wanted.since} onChange={(event) => set({ since: event.target.value })} />
      <TextField label={t("To")} type="date" value={wanted.until} onChange={(event) => set({ until: event.target.value })} />
      <SelectField label={t("Among")} value={wanted.kept} empty={t("those at hand")} options={KEPT} onChange={(kept) => set({ kept })} />
      <Columns />
      <Button disabled={!found.asking} onClick={found.clear}>
        {t("All")}
      </Button>
    </>
  );
  if (wide)
    return (
      <search className="mb-2 grid grid-cols-5 items-end gap-2">
        {find}
        {rest}
      </search>
    );
  return (
    <search className="mb-2">
      {find}
      <details className="mt-1" open={found.asking && wanted.q === ""}>
        <summary className="target grid min-h-11 cursor-pointer items-center text-teal underline">{t("Narrow, order, columns")}</summary>
        <div className="grid grid-cols-[repeat(2,minmax(0,1fr))] items-end gap-2">{rest}</div>
      </details>
    </search>
  );
}
