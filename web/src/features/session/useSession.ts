import { useMutation, useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { api, Refused, take, type Schemas } from "../../api/client";
import { queue, type Author } from "../../queue";
import { answersOf, askOrRecall, forgetAnswers, keep } from "../../storage/kept";

type Person = Schemas["Person"];

/** Set while somebody has signed out here and the server does not know of it yet. */
const LEFT = "fiacre-left";

function author(person: Person | null): Author | null {
  return person && { id: person.id, name: person.name, shop: person.shop_id, shopName: person.shop };
}

/** Whoever is there now is who enters, and whose answers are read. */
async function arrive(person: Person | null): Promise<Person | null> {
  if (person) await answersOf(person.id);
  queue.signed(author(person));
  return person;
}

/** The end of a session that is on its way to the server. */
let leaving: Promise<unknown> = Promise.resolve();

async function leave(): Promise<void> {
  try {
    await take(api.DELETE("/api/session"));
    localStorage.removeItem(LEFT);
  } catch {
    // Nobody answers: signed out here all the same.
  }
}

/** Come in by some door, after whoever was here has left: an end that arrives late would be the new session's. */
export async function comeIn(door: () => Promise<Person>): Promise<Person> {
  await leaving;
  return door();
}

async function ask(): Promise<Person | null> {
  if (localStorage.getItem(LEFT)) {
    await (leaving = leave());
    return arrive(null);
  }
  try {
    return await arrive(await askOrRecall("session", () => take(api.GET("/api/session"))));
  } catch (error) {
    if (!(error instanceof Refused) || error.status !== 401) throw error;
    await keep("session", null);
    return arrive(null);
  }
}

/** Who is signed in; `person` is null when nobody is, undefined while that is not known. */
export function useSession(): { person: Person | null | undefined; error: Error | null } {
  const asked = useQuery({ queryKey: ["session"], queryFn: ask, staleTime: 300_000 });
  return { person: asked.data, error: asked.error };
}

/** Somebody has come in: their answers are read, and what they enter is theirs. */
export function useArrive(): (person: Person) => Promise<void> {
  const queries = useQueryClient();
  return async (person) => {
    localStorage.removeItem(LEFT);
    await keep("session", person);
    await arrive(person);
    queries.setQueryData(["session"], person);
  };
}

export function useSignIn() {
  const onSuccess = useArrive();
  return useMutation({
    mutationFn: (given: { email: string; password: string; code?: string }) => comeIn(() => take(api.POST("/api/session", { body: given }))),
    onSuccess,
  });
}

/** End the session here at once; the server is told, now or when it answers again. */
export function useSignOut(): () => void {
  const queries = useQueryClient();
  return () => {
    localStorage.setItem(LEFT, "1");
    queue.signed(null);
    forgetEverything(queries);
    void forgetAnswers();
    void ask();
  };
}

/** Nothing of what was shown stays: those that still watch are told that nobody is there. */
function forgetEverything(queries: QueryClient): void {
  queries.setQueryData(["session"], null);
  queries.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== "session" });
}

/** Whether this person decides for the shop, as the server will decide it too. */
export function isOwner(person: Person | null | undefined): boolean {
  return person?.role === "owner";
}

/** Whether this person may write, as the server will decide it too. */
export function mayWrite(person: Person | null | undefined): boolean {
  return person?.role === "owner" || person?.role === "inspector";
}
