import { describe, expect, it } from "vitest";
import { fromHsv, saySpeed, toByte, toHsv, toPercent } from "./values";

it("says a speed in words", () => {
  const said = [
    [{ value: 4, unit: "s" }, "4 s"],
    [{ value: -1, unit: "beat" }, "-1 beat"],
    [{ value: 3, unit: "beat" }, "3 beats"],
    [{ value: -4, unit: "beat" }, "-1 bar"],
    [{ value: 8, unit: "beat" }, "2 bars"],
  ] as const;
  for (const [speed, text] of said) expect(saySpeed(speed)).toBe(text);
});

describe("colours", () => {
  // Source: Python's colorsys for 204,91,18 and (210, 0.5, 0.8) -> 102,153,204.
  it("agrees with colorsys", () => {
    const [h, s, v] = toHsv([204, 91, 18]);
    expect(h).toBeCloseTo(23.548, 3);
    expect(s).toBeCloseTo(0.91176, 5);
    expect(v).toBeCloseTo(0.8, 5);
    expect(fromHsv(210, 0.5, 0.8)).toEqual([102, 153, 204]);
  });

  it("goes there and back for every corner", () => {
    for (const r of [0, 1, 127, 254, 255])
      for (const g of [0, 3, 128, 255])
        for (const b of [0, 77, 255]) expect(fromHsv(...toHsv([r, g, b]))).toEqual([r, g, b]);
  });
});

describe("percent", () => {
  // Common practice, no published source: half up both ways keeps all 101 whole percents.
  it("survives the round trip", () => {
    for (let p = 0; p <= 100; p++) expect(toPercent(toByte(p / 100) / 255)).toBe(p);
  });
  it("has the trade's values", () => {
    expect([50, 1, 10, 33, 99].map((p) => toByte(p / 100))).toEqual([128, 3, 26, 84, 252]);
  });
});

it("reads and says a clip's own speed in percent", () => {
  expect(saySpeed({ value: 0.25, unit: "times" })).toBe("25 %");
});
