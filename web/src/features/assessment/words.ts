import { t } from "../../language";
import { useQuery } from "@tanstack/react-query";
import { api, take } from "../../api/client";
import { askOrRecall } from "../../storage/kept";

export interface Words {
  fault: (id: string, scope?: string) => string;
  prior: (id: string, scope?: string) => number;
  test: (id: string) => string;
  grades: string;
}

function useVocabulary() {
  return useQuery({
    queryKey: ["vocabulary"],
    queryFn: () => askOrRecall("vocabulary", () => take(api.GET("/api/vocabulary"))),
    staleTime: Infinity,
  }).data;
}

/** Every fault once, to choose from. */
export function useFaults(): readonly { value: string; label: string }[] {
  const labels = new Map(useVocabulary()?.faults.map((one) => [one.id, one.label]));
  return [...labels].map(([value, label]) => ({ value, label }));
}

/** What faults and tests are called; their ids until the names arrive. */
export function useWords(): Words {
  const data = useVocabulary();
  const find = (id: string, scope: string) =>
    data?.faults.find((fault) => fault.id === id && fault.scope === scope);
  return {
    // Where nobody says where it sits: a cylinder's, or else the only thing of that name.
    fault: (id, scope) => (find(id, scope ?? "cylinder") ?? (scope ? undefined : data?.faults.find((fault) => fault.id === id)))?.label ?? id,
    prior: (id, scope = "cylinder") => find(id, scope)?.prior ?? 0,
    test: (id) => data?.tests[id] ?? id,
    grades: data?.grades ?? "",
  };
}

/** Keeps a figure and its per cent sign on one line. */
export function unbroken(text: string): string {
  return text.replaceAll(" %", "\u00a0%");
}

/** 0.834 as "83 %"; never a certainty. */
export function percent(chance: number): string {
  if (chance > 0.99) return t("over 99 %");
  if (chance < 0.01) return t("under 1 %");
  return `${Math.round(chance * 100)}\u00a0%`;
}

/** 1234.5 as "1,200 EUR": as rounded as the core gives it. */
export function money(amount: number, currency: string): string {
  return `${amount.toLocaleString("en-GB", { maximumFractionDigits: 0 })}\u00a0${currency}`;
}
