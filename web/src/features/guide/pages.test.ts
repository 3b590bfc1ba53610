import { describe, expect, it } from "vitest";
import { STEPS } from "../hand";
import { nowAndWhy, pageOf } from "./pages";

describe("the guide", () => {
  it("has a page for each step, which says what to do now and why", () => {
    for (const step of STEPS) {
      expect(nowAndWhy(step.id), step.id).toBeDefined();
      expect(pageOf(step.id), step.id).toContain("<h1>");
    }
  });

  it("shows the pictures of the folder", () => {
    expect(pageOf("plan")).not.toContain("../screenshots");
    expect(pageOf("plan")).toContain("<img");
  });
});
