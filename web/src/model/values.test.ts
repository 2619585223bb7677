import { describe, expect, it } from "vitest";
import { fromHsv, readColour, readSpeed, saySpeed, toByte, toHsv, toPercent } from "./values";

describe("speeds", () => {
  it.each([
    ["4 s", { value: 4, unit: "s" }],
    ["0,5", { value: 0.5, unit: "s" }],
    ["8 beats", { value: 8, unit: "beat" }],
    ["2 bars", { value: 8, unit: "beat" }],
  ])("reads %s", (text, speed) => expect(readSpeed(text)).toEqual(speed));

  it("runs backward where it is negative, or said so", () => {
    expect(readSpeed("-4 bars")).toEqual({ value: -16, unit: "beat" });
    expect(readSpeed("8 beats backward")).toEqual({ value: -8, unit: "beat" });
    expect(readSpeed("-150 %")).toEqual({ value: -1.5, unit: "times" });
    for (const text of ["-4 bars", "-1 bar", "-1 beat", "-2.5 s", "-50 %"])
      expect(saySpeed(readSpeed(text) ?? { value: 0, unit: "s" })).toBe(text);
  });

  it("refuses what is no speed", () => {
    for (const text of ["", "fast", "--1 s", "1 s s", "backward"]) expect(readSpeed(text)).toBeNull();
  });

  it("says what it reads", () => {
    for (const text of ["4 s", "1 beat", "3 beats", "1 bar", "2 bars"]) {
      const speed = readSpeed(text);
      expect(speed && saySpeed(speed)).toBe(text);
    }
  });
});

describe("colours", () => {
  it("reads hex and numbers", () => {
    expect(readColour("#cc5b12")).toEqual([204, 91, 18]);
    expect(readColour("204 91 18")).toEqual([204, 91, 18]);
    expect(readColour("256 0 0")).toBeNull();
    expect(readColour("red")).toBeNull();
  });

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
  expect(readSpeed("150 %")).toEqual({ value: 1.5, unit: "times" });
  expect(saySpeed({ value: 0.25, unit: "times" })).toBe("25 %");
});
