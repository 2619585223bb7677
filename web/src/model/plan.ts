import type { FixtureView, ProfileView, Schemas } from "../api/client";
import { clamp } from "./values";

export type PlanItem = Schemas["PlanItem"];
/** A point in metres: x to the right, y up. */
export type Point = readonly [number, number];
export interface Bounds {
  left: number;
  right: number;
  bottom: number;
  top: number;
}
export interface PlanView {
  /** Pixels a metre. */
  scale: number;
  /** What lies in the middle of the screen, in metres. */
  x: number;
  y: number;
}

/** A strip's pixels are taken to stand so far apart where nothing is known, metres. */
const PITCH = 0.1;
const SMALLEST = 0.25;
const GAP = 0.5;

/** Cells of a fixture on its face of 1 x 1, from its profile; those of a plain line are left out there. */
export function facePoints(fixture: FixtureView, profile: ProfileView | undefined): Point[] {
  const mode = profile?.modes.find((one) => one.name === fixture.mode);
  const blocks = mode?.blocks.filter((one) => one.cells > 0) ?? [];
  return blocks.flatMap((block, index): Point[] => {
    const points = block.points.length
      ? block.points
      : Array.from({ length: block.cells }, (_, n): Point => [(n + 0.5) / block.cells, 0.5]);
    // Several blocks with cells share the face from top to bottom.
    return points.map(([x, y]): Point => [x, (index + y) / blocks.length]);
  });
}

/** How large a fixture is taken to be until somebody says, in metres. */
export function faceSize(points: Point[]): { w: number; h: number } {
  const columns = new Set(points.map(([x]) => x.toFixed(3))).size;
  const rows = new Set(points.map(([, y]) => y.toFixed(3))).size;
  if (points.length < 2) return { w: SMALLEST, h: SMALLEST };
  if (columns * rows > points.length * 1.2) {
    const side = Math.max(0.35, Math.sqrt(points.length) * 0.13);
    return { w: side, h: side };
  }
  return { w: Math.max(columns * PITCH, PITCH), h: Math.max(rows * PITCH, PITCH) };
}

/** Where a point of the face lies in the world. */
export function toWorld(item: PlanItem, [px, py]: Point): Point {
  const x = (px - 0.5) * item.w * (item.mirrored ? -1 : 1);
  const y = (0.5 - py) * item.h;
  const turn = (item.turn * Math.PI) / 180;
  return [item.x + x * Math.cos(turn) - y * Math.sin(turn), item.y + x * Math.sin(turn) + y * Math.cos(turn)];
}

const CORNERS: Point[] = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
];
export const cornersOf = (item: PlanItem): Point[] => CORNERS.map((corner) => toWorld(item, corner));

export function boundsOf(points: Point[]): Bounds | null {
  if (!points.length) return null;
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => y);
  return { left: Math.min(...xs), right: Math.max(...xs), bottom: Math.min(...ys), top: Math.max(...ys) };
}
export const itemBounds = (items: PlanItem[]): Bounds | null => boundsOf(items.flatMap(cornersOf));

/** The view that shows the bounds whole, with room around them. */
export function fitted(bounds: Bounds | null, width: number, height: number): PlanView {
  if (!bounds || width < 1) return { scale: 40, x: 0, y: 0 };
  const w = Math.max(bounds.right - bounds.left, 1);
  const h = Math.max(bounds.top - bounds.bottom, 1);
  return {
    scale: clamp(Math.min(width / (w * 1.15), height / (h * 1.25)), 0.2, 400),
    x: (bounds.left + bounds.right) / 2,
    y: (bounds.bottom + bounds.top) / 2,
  };
}

export const snapped = (value: number, step: number): number =>
  step > 0 ? Number((Math.round(value / step) * step).toFixed(4)) : Number(value.toFixed(4));

const at = (item: PlanItem, x: number, y: number): PlanItem => ({
  ...item,
  x: Number(x.toFixed(4)) + 0, // and no -0
  y: Number(y.toFixed(4)) + 0,
});

/** In a row from one point to another, the first and the last on its ends. */
export function inRow(items: PlanItem[], [ax, ay]: Point, [bx, by]: Point): PlanItem[] {
  return items.map((item, n) => {
    const along = items.length > 1 ? n / (items.length - 1) : 0;
    return at(item, ax + (bx - ax) * along, ay + (by - ay) * along);
  });
}

/** As tiles of an area, row by row from its top left; as many columns as make the tiles nearly square. */
export function inGrid(items: PlanItem[], a: Point, b: Point, columns?: number): PlanItem[] {
  const [left, right] = [Math.min(a[0], b[0]), Math.max(a[0], b[0])];
  const [bottom, top] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])];
  const proportion = (right - left) / Math.max(top - bottom, 0.001);
  const wanted = columns ?? Math.round(Math.sqrt(items.length * proportion));
  const across = clamp(wanted, 1, Math.max(items.length, 1));
  const rows = Math.ceil(items.length / across);
  return items.map((item, n) =>
    at(
      item,
      left + ((n % across) + 0.5) * ((right - left) / across),
      top - (Math.floor(n / across) + 0.5) * ((top - bottom) / rows),
    ),
  );
}

/** Around a middle, clockwise from the top; each is turned to face outwards. */
export function inRing(items: PlanItem[], [cx, cy]: Point, radius: number): PlanItem[] {
  return items.map((item, n) => {
    const turn = (2 * Math.PI * n) / items.length;
    const degrees = Number(((-turn * 180) / Math.PI).toFixed(2)) + 0;
    return { ...at(item, cx + radius * Math.sin(turn), cy + radius * Math.cos(turn)), turn: degrees };
  });
}

export type Edge = "left" | "right" | "top" | "bottom" | "middle" | "centre";

/** All to the same edge of their common bounds; `middle` is one height, `centre` one place across. */
export function aligned(items: PlanItem[], edge: Edge): PlanItem[] {
  const all = itemBounds(items);
  if (!all) return items;
  return items.map((item) => {
    const own = itemBounds([item]) ?? all;
    switch (edge) {
      case "left":
        return at(item, item.x + all.left - own.left, item.y);
      case "right":
        return at(item, item.x + all.right - own.right, item.y);
      case "top":
        return at(item, item.x, item.y + all.top - own.top);
      case "bottom":
        return at(item, item.x, item.y + all.bottom - own.bottom);
      case "middle":
        return at(item, item.x, (all.bottom + all.top) / 2);
      default:
        return at(item, (all.left + all.right) / 2, item.y);
    }
  });
}

/** The same distance between all, along x or y, the outermost staying where they are. */
export function distributed(items: PlanItem[], axis: "x" | "y"): PlanItem[] {
  if (items.length < 3) return items;
  const order = [...items].sort((a, b) => a[axis] - b[axis]);
  const [first, last] = [order[0]?.[axis] ?? 0, order.at(-1)?.[axis] ?? 0];
  const place = new Map(order.map((one, n) => [one.id, first + ((last - first) * n) / (order.length - 1)]));
  return items.map((one) => {
    const to = place.get(one.id) ?? one[axis];
    return axis === "x" ? at(one, to, one.y) : at(one, one.x, to);
  });
}

/** All turned together around the mean of their places, counter-clockwise: it stays where it is, so turning back
 * brings everything back. */
export function rotated(items: PlanItem[], degrees: number): PlanItem[] {
  const mean = (axis: "x" | "y") =>
    items.reduce((sum, one) => sum + one[axis], 0) / Math.max(items.length, 1);
  const [cx, cy] = [mean("x"), mean("y")];
  const turn = (degrees * Math.PI) / 180;
  return items.map((item) => {
    const [dx, dy] = [item.x - cx, item.y - cy];
    const moved = at(
      item,
      cx + dx * Math.cos(turn) - dy * Math.sin(turn),
      cy + dx * Math.sin(turn) + dy * Math.cos(turn),
    );
    return { ...moved, turn: (((item.turn + degrees) % 360) + 360) % 360 };
  });
}

/** Left and right exchanged, around the middle of their bounds. */
export function mirrored(items: PlanItem[]): PlanItem[] {
  const all = itemBounds(items);
  if (!all) return items;
  return items.map((item) => ({
    ...at(item, all.left + all.right - item.x, item.y),
    turn: (360 - item.turn) % 360,
    mirrored: !item.mirrored,
  }));
}

/** New fixtures in rows under everything that is there, so that they are never out of sight. */
export function placedBelow(there: PlanItem[], sizes: { id: string; w: number; h: number }[]): PlanItem[] {
  const all = itemBounds(there);
  const width = Math.max(all ? all.right - all.left : 0, 8);
  const left = all?.left ?? 0;
  let [x, y, tall] = [left, (all?.bottom ?? GAP) - GAP, 0];
  return sizes.map(({ id, w, h }) => {
    if (x > left && x + w > left + width) {
      x = left;
      y -= tall + GAP;
      tall = 0;
    }
    const item: PlanItem = {
      id,
      kind: "fixture",
      x: Number((x + w / 2).toFixed(3)),
      y: Number((y - h / 2).toFixed(3)),
      turn: 0,
      w,
      h,
      mirrored: false,
      text: "",
    };
    x += w + GAP;
    tall = Math.max(tall, h);
    return item;
  });
}

/** Where a head points, as an arrow on the plan: pan turns it, tilt makes it longer. Degrees; 0, 0 is straight down. */
export function beamOf(pan: number, tilt: number): Point {
  const length = Math.sin((clamp(Math.abs(tilt), 0, 90) * Math.PI) / 180) * Math.sign(tilt || 1);
  const turn = (pan * Math.PI) / 180;
  return [
    length * Math.sin(turn),
    -Math.abs(Math.cos((tilt * Math.PI) / 180)) - length * Math.cos(turn) * 0.35,
  ];
}
