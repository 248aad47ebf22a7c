import { describe, expect, it } from "vitest";
import {
  clock,
  feedText,
  grouped,
  hoursText,
  lengthText,
  moneyText,
  readHours,
  readNumber,
  signed,
} from "./numbers";

describe("numbers as they are typed", () => {
  it.each([
    ["6,35", 6.35],
    ["6.35", 6.35],
    [".5", 0.5],
    ["1/4", 0.25],
    ["3x8+2", 26],
    ["2*(3+1)", 8],
    ["2*(3+1)/4 - 1", 1],
    ["−3", -3],
    ["-3", -3],
  ])("%s is %d mm", (text, value) => {
    expect(readNumber(text, "mm")).toBeCloseTo(value, 9);
  });

  it("takes a unit that is named over the one that is shown", () => {
    expect(readNumber("0.25in", "mm")).toBeCloseTo(6.35, 9);
    expect(readNumber('1/4"', "mm")).toBeCloseTo(6.35, 9);
    expect(readNumber('3/8" + 1/16"', "mm")).toBeCloseTo(11.1125, 9);
    expect(readNumber('2 x 1/4"', "mm")).toBeCloseTo(12.7, 9);
    expect(readNumber("-1in/2", "mm")).toBeCloseTo(-12.7, 9);
    expect(readNumber("(1+1)in", "mm")).toBeCloseTo(50.8, 9);
    expect(readNumber("0.25", "inch")).toBeCloseTo(6.35, 9);
    expect(readNumber("6.35 mm", "inch")).toBeCloseTo(6.35, 9);
  });

  it.each(["", "abc", "1/0", "2*(3", "1..2.3.4 x", "()", "3 4"])("%s is no number", (text) => {
    expect(readNumber(text, "mm")).toBeNull();
  });

  it("reads hours as they are written on paper", () => {
    expect(readHours("2:30")).toBeCloseTo(2.5, 9);
    expect(readHours("1,5")).toBeCloseTo(1.5, 9);
    expect(readHours("soon")).toBeNull();
  });
});

describe("numbers as they are shown", () => {
  it("has a clock with tenths and whole minutes", () => {
    expect(clock(331.04)).toBe("5:31.0");
    expect(clock(59.96)).toBe("1:00.0");
    expect(clock(0)).toBe("0:00.0");
  });

  it("never shows a minus before zero", () => {
    expect(lengthText(-0.001, "mm")).toBe("0.00");
    expect(signed(-0.0001, 2)).toBe("0.00");
    expect(signed(-1.5, 1)).toBe("\u22121.5");
    expect(signed(1.5, 1)).toBe("+1.5");
  });

  it("keeps what inch can show of a length and a feed", () => {
    expect(lengthText(25.4, "inch")).toBe("1.0000");
    expect(feedText(2540, "inch")).toBe("100.0");
  });

  it("groups thousands and tells money to the cent", () => {
    expect(grouped(8640)).toBe("8\u202f640");
    expect(moneyText("1234567.5")).toBe("1\u202f234\u202f567.50");
    expect(hoursText(2.5)).toBe("2:30");
    expect(hoursText(0.999)).toBe("1:00");
  });
});
