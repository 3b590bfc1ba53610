import { keepPreviousData, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import { api, take, type Schemas } from "../../api/client";
import { askOrRecall } from "../../storage/kept";

type Row = Schemas["InspectionRow"];

/** What is asked for; empty fields ask nothing. */
export interface Wanted {
  q: string;
  fault: string;
  grade: string;
  inspector: string;
  since: string;
  until: string;
  /** Which list: what was put by, or deleted, stands apart. */
  kept: "" | "archived" | "removed";
  order: "" | "oldest" | "worst" | "engine" | "changed";
}

const NOTHING: Wanted = { q: "", fault: "", grade: "", inspector: "", since: "", until: "", kept: "", order: "" };
const PAGE = 50;

/** The shop's inspections that fit, a page at a time; the first page of all is kept for offline. */
export function useFound() {
  const [address, setAddress] = useSearchParams();
  const [wanted, setWanted] = useState<Wanted>(() => ({ ...NOTHING, ...Object.fromEntries([...address].filter(([name]) => name in NOTHING)) }));
  const asked = useDeferredValue(wanted);
  const given = Object.fromEntries(Object.entries(asked).filter(([, value]) => value !== ""));
  // What is looked for stands in the address, to be kept or sent.
  const spelt = new URLSearchParams(given).toString();
  useEffect(() => {
    if (spelt !== address.toString()) setAddress(new URLSearchParams(spelt), { replace: true });
  }, [spelt, address, setAddress]);
  const found = useInfiniteQuery({
    queryKey: ["inspections", asked],
    queryFn: ({ pageParam }) => {
      const ask = () =>
        take<Row[]>(api.GET("/api/inspections", { params: { query: { ...given, page: pageParam } } }));
      const plain = pageParam === 1 && Object.keys(given).length === 0;
      return plain ? askOrRecall("inspections", ask) : ask();
    },
    initialPageParam: 1,
    getNextPageParam: (last, pages) => (last.length === PAGE ? pages.length + 1 : undefined),
    placeholderData: keepPreviousData,
    staleTime: 0,
  });
  return {
    wanted,
    set: (next: Partial<Wanted>) => setWanted((known) => ({ ...known, ...next })),
    asking: Object.keys(given).some((name) => name !== "order"),
    clear: () => setWanted(NOTHING),
    rows: found.data?.pages.flat(),
    more: found.hasNextPage ? () => void found.fetchNextPage() : undefined,
    error: found.error,
  };
}

/** The shop's people, to choose an inspector from. */
export function usePeople() {
  const { data } = useQuery({ queryKey: ["people"], queryFn: () => askOrRecall("people", () => take(api.GET("/api/people"))), retry: false });
  return data ?? [];
}
