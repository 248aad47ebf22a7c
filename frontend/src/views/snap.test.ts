import { describe, expect, it } from "vitest";
import { snapped } from "./snap";

describe("where a dragged piece falls", () => {
  it("is a whole millimetre where nothing is near", () => {
    expect(snapped(12.4, [])).toBe(12);
    expect(snapped(12.4, [40])).toBe(12);
  });
  it("is in line with the nearest other piece", () => {
    expect(snapped(38.6, [40, 37.25])).toBe(37.25);
    expect(snapped(39.4, [40, 37.25])).toBe(40);
  });
});
