import { describe, expect, it } from "vitest";
import { CELL, channelAt, channelBeside, foldedLayout, LEFT, plainLayout } from "./levelLayout";

const bar = foldedLayout({
  columns: 26,
  lines: [
    {
      fixtures: "401",
      spans: [
        { first: 1, column: 0, count: 6 },
        { first: 7, column: 6, count: 4 },
      ],
      head: [{ column: 0, word: "dim" }],
    },
    { fixtures: "", spans: [{ first: 11, column: 6, count: 4 }], head: [] },
  ],
});

describe("channels on the map", () => {
  it("stand where the server has them", () => {
    expect([bar.x[7], bar.x[11]]).toEqual([LEFT + 6 * CELL.width, LEFT + 6 * CELL.width]);
    expect(Number.isNaN(bar.x[15])).toBe(true);
  });
  it("are found under the pointer", () => {
    expect(channelAt(bar, (bar.x[11] ?? 0) + 3, (bar.y[11] ?? 0) + 3)).toBe(11);
    expect(channelAt(bar, 2, 2)).toBe(0);
    expect(channelAt(plainLayout(), LEFT + CELL.width + 1, CELL.height + 1)).toBe(26);
  });
  it("are walked by arrows, down to the nearest beneath", () => {
    expect(channelBeside(bar, 8, "ArrowDown")).toBe(12);
    expect(channelBeside(bar, 2, "ArrowDown")).toBe(11);
    expect(channelBeside(bar, 11, "ArrowUp")).toBe(7);
    expect(channelBeside(bar, 14, "ArrowRight")).toBe(14);
    expect(channelBeside(bar, 3, "x")).toBe(null);
  });
});
