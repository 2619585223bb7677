import { expect, test } from "vitest";
import {
  aligned,
  beamOf,
  boundsOf,
  distributed,
  faceSize,
  fitted,
  inGrid,
  inRing,
  inRow,
  itemBounds,
  mirrored,
  type PlanItem,
  placedBelow,
  rotated,
  snapped,
  toWorld,
} from "./plan";

const item = (id: string, x: number, y: number, more: Partial<PlanItem> = {}): PlanItem => ({
  id,
  kind: "fixture",
  x,
  y,
  turn: 0,
  w: 1,
  h: 0.2,
  mirrored: false,
  text: "",
  ...more,
});
const places = (items: PlanItem[]) => items.map(({ x, y }) => [x, y]);
const three = [item("a", 0, 0), item("b", 1, 3), item("c", 9, 5)];

test("a row runs from its first to its last", () => {
  expect(places(inRow(three, [2, 1], [6, 3]))).toEqual([
    [2, 1],
    [4, 2],
    [6, 3],
  ]);
  expect(places(inRow(three.slice(0, 1), [2, 1], [6, 3]))).toEqual([[2, 1]]);
});

test("tiles fill an area from its top left, whichever way it was dragged", () => {
  const six = Array.from({ length: 6 }, (_, n) => item(String(n), 0, 0));
  const expected = [
    [1, 3],
    [3, 3],
    [5, 3],
    [1, 1],
    [3, 1],
    [5, 1],
  ];
  expect(places(inGrid(six, [0, 0], [6, 4]))).toEqual(expected);
  expect(places(inGrid(six, [6, 4], [0, 0]))).toEqual(expected);
  expect(places(inGrid(six, [0, 0], [6, 4], 1)).map(([x]) => x)).toEqual(Array(6).fill(3));
});

test("a ring begins at the top and goes clockwise, each facing outwards", () => {
  const four = Array.from({ length: 4 }, (_, n) => item(String(n), 0, 0));
  const ring = inRing(four, [10, 0], 2);
  expect(places(ring)).toEqual([
    [10, 2],
    [12, 0],
    [10, -2],
    [8, 0],
  ]);
  expect(ring.map((one) => one.turn)).toEqual([0, -90, -180, -270]);
});

test("what is turned and mirrored twice is as before", () => {
  const back = rotated(rotated(three, 37), -37);
  for (const [n, one] of back.entries()) {
    expect(one.x).toBeCloseTo(three[n]?.x ?? 0, 3);
    expect(one.y).toBeCloseTo(three[n]?.y ?? 0, 3);
  }
  expect(mirrored(mirrored(three))).toEqual(three);
  expect(places(mirrored(three)).map(([x]) => x)).toEqual([9, 8, 0]);
});

test("alignment keeps to the common edge", () => {
  expect(aligned(three, "left").map((one) => one.x)).toEqual([0, 0, 0]);
  expect(aligned(three, "top").map((one) => one.y)).toEqual([5, 5, 5]);
  expect(aligned(three, "centre").map((one) => one.x)).toEqual([4.5, 4.5, 4.5]);
  const wide = [item("a", 0, 0), item("b", 5, 0, { w: 3 })];
  expect(aligned(wide, "right").map((one) => one.x)).toEqual([6, 5]);
});

test("distribution makes equal steps and leaves the outermost", () => {
  expect(distributed(three, "x").map((one) => one.x)).toEqual([0, 4.5, 9]);
  expect(distributed(three.slice(0, 2), "x")).toEqual(three.slice(0, 2));
});

test("a turned face turns its cells with it", () => {
  const [x, y] = toWorld(item("a", 2, 3, { turn: 90 }), [1, 0.5]);
  expect([x, y].map((part) => Number(part.toFixed(6)))).toEqual([2, 3.5]);
  expect(toWorld(item("a", 2, 3, { mirrored: true }), [1, 0.5])[0]).toBe(1.5);
  const bounds = itemBounds([item("a", 0, 0, { turn: 90 })]);
  expect(bounds?.top).toBeCloseTo(0.5);
  expect(bounds?.right).toBeCloseTo(0.1);
});

test("new fixtures come to lie below everything that is there, in rows", () => {
  const sizes = Array.from({ length: 10 }, (_, n) => ({ id: `n${n}`, w: 2, h: 0.5 }));
  const placed = placedBelow(three, sizes);
  const bottom = itemBounds(three)?.bottom ?? 0;
  expect(Math.max(...placed.map((one) => one.y + one.h / 2))).toBeLessThan(bottom);
  expect(new Set(placed.map((one) => one.y)).size).toBeGreaterThan(1);
  expect(new Set(placed.map((one) => `${one.x} ${one.y}`)).size).toBe(10);
});

test("faces are as large as their cells, and the view shows all of it", () => {
  expect(faceSize(Array.from({ length: 10 }, (_, n) => [n / 10, 0.5] as const))).toEqual({ w: 1, h: 0.1 });
  expect(faceSize([[0.5, 0.5]])).toEqual({ w: 0.25, h: 0.25 });
  const view = fitted(
    boundsOf([
      [0, 0],
      [20, 10],
    ]),
    800,
    400,
  );
  expect([view.x, view.y]).toEqual([10, 5]);
  expect(20 * view.scale).toBeLessThanOrEqual(800);
  expect(10 * view.scale).toBeLessThanOrEqual(400);
});

test("values snap to whole steps", () => {
  expect([snapped(1.26, 0.5), snapped(-0.3, 0.5), snapped(1.23456, 0)]).toEqual([1.5, -0.5, 1.2346]);
});

test("a head that hangs straight down points down, one that is tilted to its side", () => {
  expect(beamOf(0, 0)).toEqual([0, -1]);
  expect(beamOf(90, 90)[0]).toBeCloseTo(1);
});
