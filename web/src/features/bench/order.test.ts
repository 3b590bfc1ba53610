import { describe, expect, it } from "vitest";
import type { Document, Plan } from "../../api/client";
import { beside, inWorkOrder, ways, worked } from "./order";

const engine = {
  cycle: "four-stroke",
  layout: "vee",
  cylinders: 4,
  firing_order: [1, 3, 4, 2],
  banks: [
    { name: "port", cylinders: [1, 2] },
    { name: "starboard", cylinders: [3, 4] },
  ],
};
const job = (inspection: object) => ({ engine, inspection }) as unknown as Document;
const plan = {
  stations: [1, 2, 3, 4].map((cylinder) => ({ cylinder, along: (cylinder - 1) % 2, across: cylinder > 2 ? 1 : 0 })),
} as unknown as Plan;

describe("the order of the job", () => {
  it("is by number until somebody chooses, and covers what the job covers", () => {
    expect(worked(job({}))).toEqual([1, 2, 3, 4]);
    expect(worked(job({ order: [1, 3, 4, 2] }))).toEqual([1, 3, 4, 2]);
    expect(worked(job({ order: [1, 3, 4, 2], scope: [2, 3] }))).toEqual([3, 2]);
    expect(worked(job({ order: [4] }))).toEqual([4, 1, 2, 3]);
  });

  it("says what comes before and after, and nothing beyond either end", () => {
    const turned = job({ order: [1, 3, 4, 2] });
    expect([beside(turned, 1, 1), beside(turned, 2, -1), beside(turned, 2, 1), beside(turned, 1, -1)]).toEqual([3, 4, undefined, undefined]);
    expect(inWorkOrder(turned, [{ n: 2 }, { n: 3 }], (one) => one.n)).toEqual([{ n: 3 }, { n: 2 }]);
  });

  it("offers the ways that this engine has, each once", () => {
    const offered = Object.fromEntries(ways(job({ trouble_codes: ["P0303", "P0313"] }), plan).map((way) => [way.id, way.order.join("")]));
    expect(offered).toEqual({
      number: "1234",
      sitting: "1324",
      "bank starboard": "3412",
      firing: "1342",
      coded: "3124",
    });
  });
});
