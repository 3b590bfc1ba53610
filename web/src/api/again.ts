import type { QueryClient, QueryKey } from "@tanstack/react-query";

/** Ask again after a change: a question that was on its way before it would bring the answer of then. */
export async function askAgain(queries: QueryClient, ...keys: readonly QueryKey[]): Promise<void> {
  await Promise.all(
    keys.map(async (queryKey) => {
      await queries.cancelQueries({ queryKey });
      await queries.invalidateQueries({ queryKey });
    }),
  );
}
