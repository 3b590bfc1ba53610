import { t } from "../../language";
import { api, Refused, take, type Schemas } from "../../api/client";
import { askOrRecall } from "../../storage/kept";

export type Calculator = Schemas["Calculator"];
export type Answer = Readonly<Record<string, unknown>>;

/** Ask one calculator; where nobody answers, the last answer to the same question stands in. */
export async function calculate(name: string, keys: object): Promise<Answer> {
  const ask = () =>
    take<Answer>(
      api.POST("/api/calculators/{name}", { params: { path: { name } }, body: keys as Record<string, never> }) as never,
    );
  try {
    return await askOrRecall(`calculate ${name} ${JSON.stringify(keys)}`, ask);
  } catch (error) {
    if (error instanceof Refused && error.status === 0) {
      throw new Refused(0, error.code, t("This needs the server, and it does not answer. Only what was computed before is at hand."), []);
    }
    throw error;
  }
}
