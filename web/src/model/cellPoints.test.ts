import { expect, test } from "vitest";
import { cellPoints, type Layout } from "./cellPoints";

const layout = (more: Partial<Layout>): Layout => ({
  kind: "line",
  columns: 1,
  centre: false,
  points: [],
  ...more,
});
const rounded = (points: [number, number][]) =>
  points.map((point) => point.map((part) => Number(part.toFixed(4))));

// The same cases as the program's own layout of cells: tests/core/test_channel.py.
test("cells sit where their layout says", () => {
  expect(cellPoints(layout({}), 4).map(([x]) => x)).toEqual([0.125, 0.375, 0.625, 0.875]);
  expect(cellPoints(layout({ kind: "upright" }), 2).map(([, y]) => y)).toEqual([0.25, 0.75]);
  expect(cellPoints(layout({ kind: "grid", columns: 2 }), 4)).toEqual([
    [0.25, 0.25],
    [0.75, 0.25],
    [0.25, 0.75],
    [0.75, 0.75],
  ]);
  const ring = rounded(cellPoints(layout({ kind: "ring", centre: true }), 7));
  expect([ring[0], ring[1], ring[4]]).toEqual([
    [0.5, 0.5],
    [0.5, 0.08],
    [0.5, 0.92],
  ]);
  expect(cellPoints(layout({ kind: "free", points: [[0.1, 0.9]] }), 2)).toEqual([
    [0.1, 0.9],
    [0.75, 0.5],
  ]);
});
