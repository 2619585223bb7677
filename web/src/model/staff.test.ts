import { expect, test } from "vitest";
import { beatAt, type Entry, linesOf, onLine, outlineOf, pageOf, type Score, xOf } from "./staff";

const score = { beats: 128, bars: 32, bar_beats: 4, staves: [{}, {}, {}, {}, {}] } as unknown as Score;

test("a score of 32 bars is four lines of eight, and what lies on them is found again", () => {
  const lines = linesOf(score, 912);
  expect(lines.map((one) => [one.first, one.last])).toEqual([
    [0, 32],
    [32, 64],
    [64, 96],
    [96, 128],
  ]);
  const [, second] = lines;
  if (!second) throw new Error("no line");
  for (const beat of [32, 40.5, 64]) expect(beatAt(second, xOf(second, beat))).toBeCloseTo(beat);
  expect([onLine(second, 30, 3), onLine(second, 30, 2), onLine(second, 63, 9)]).toEqual([true, false, true]);
});

test("a short last line is as wide as its bars", () => {
  const [first, last] = linesOf({ ...score, beats: 44 } as Score, 912);
  expect((last?.width ?? 0) / (first?.width ?? 1)).toBeCloseTo(12 / 32);
});

test("more staves than fit are fewer lines on a page", () => {
  expect(pageOf(score, 4, 620).lines).toBe(4);
  expect(pageOf({ ...score, staves: Array(20).fill({}) } as unknown as Score, 4, 620).lines).toBe(1);
});

test("an entry tapers within its fades and is cut where the line ends", () => {
  const [first] = linesOf(score, 912);
  if (!first) throw new Error("no line");
  const entry = { at: 28, length: 8, level: 0.5, fade_in: 2, fade_out: 0 } as Entry;
  const points = outlineOf(entry, first, 100, 10).split(" ");
  expect(points[0]).toBe(`${xOf(first, 28).toFixed(1)},100.0`);
  expect(points).toContain(`${xOf(first, 30).toFixed(1)},95.0`);
  expect(points).toContain(`${xOf(first, 32).toFixed(1)},95.0`);
});
