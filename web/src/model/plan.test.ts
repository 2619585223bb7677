import { expect, test } from "vitest";
import { beamOf, boundsOf, fitted, itemBounds, type PlanItem, snapped, toWorld } from "./plan";

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

test("a turned face turns its cells with it", () => {
  const [x, y] = toWorld(item("a", 2, 3, { turn: 90 }), [1, 0.5]);
  expect([x, y].map((part) => Number(part.toFixed(6)))).toEqual([2, 3.5]);
  expect(toWorld(item("a", 2, 3, { mirrored: true }), [1, 0.5])[0]).toBe(1.5);
  const bounds = itemBounds([item("a", 0, 0, { turn: 90 })]);
  expect(bounds?.top).toBeCloseTo(0.5);
  expect(bounds?.right).toBeCloseTo(0.1);
});

test("the view shows all of it", () => {
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
