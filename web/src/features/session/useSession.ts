import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, Refused, take, type Schemas } from "../../api/client";
import { askOrRecall, forgetAnswers } from "../../storage/kept";

type Person = Schemas["Person"];

/** Who is signed in; `person` is null when nobody is, undefined while that is not known. */
export function useSession(): { person: Person | null | undefined; error: Error | null } {
  const asked = useQuery({
    queryKey: ["session"],
    queryFn: async (): Promise<Person | null> => {
      try {
        return await askOrRecall("session", () => take(api.GET("/api/session")));
      } catch (error) {
        if (error instanceof Refused && error.status === 401) return null;
        throw error;
      }
    },
    staleTime: 300_000,
    networkMode: "always",
  });
  return { person: asked.data, error: asked.error };
}

export function useSignIn() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (given: { email: string; password: string }) =>
      take(api.POST("/api/session", { body: given })),
    onSuccess: (person) => queries.setQueryData(["session"], person),
  });
}

export function useSignOut() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => take(api.DELETE("/api/session")),
    onSuccess: () => {
      void forgetAnswers();
      queries.clear();
      queries.setQueryData(["session"], null);
    },
  });
}

/** Whether this person may write, as the server will decide it too. */
export function mayWrite(person: Person | null | undefined): boolean {
  return person?.role === "owner" || person?.role === "inspector";
}
