import { expect, it } from "vitest";
import { among } from "./changes";

it("finds a choice among those there are, and nothing else", () => {
  expect(among(["X", "Y", "Z"], "Y")).toBe("Y");
  expect(among(["X", "Y", "Z"], "")).toBeUndefined();
  expect(among([0, 90, 180, 270], "90")).toBe(90);
  expect(among([0, 90, 180, 270], "45")).toBeUndefined();
});
