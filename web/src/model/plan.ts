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

/** A word that begins at a place, px wide. */
export interface Word {
  x: number;
  px: number;
}

const EDGE_PX = 14;

/** The view that shows the bounds whole, with room around them; and words to their ends. */
export function fitted(bounds: Bounds | null, width: number, height: number, words: Word[] = []): PlanView {
  if (!bounds || width < 1) return { scale: 40, x: 0, y: 0 };
  const w = Math.max(bounds.right - bounds.left, 1);
  const h = Math.max(bounds.top - bounds.bottom, 1);
  const fits = clamp(Math.min(width / (w * 1.15), height / (h * 1.25)), 0.2, 400);
  const middle = (bounds.left + bounds.right) / 2;
  const y = (bounds.bottom + bounds.top) / 2;
  const over = Math.max(0, ...words.map((one) => (one.x - middle) * fits + one.px + EDGE_PX - width / 2));
  if (!over) return { scale: fits, x: middle, y };
  // What begins at the left edge stays there, and everything comes closer until the longest word ends on the right.
  const room = (one: Word) => (width - 2 * EDGE_PX - one.px) / Math.max(one.x - bounds.left, 0.1);
  const scale = clamp(Math.min(fits, ...words.map(room)), Math.min(fits, 0.6 * fits), 400);
  return { scale, x: bounds.left + (width / 2 - EDGE_PX) / scale, y };
}

export const snapped = (value: number, step: number): number =>
  step > 0 ? Number((Math.round(value / step) * step).toFixed(4)) : Number(value.toFixed(4));

/** Where a head points, as an arrow on the plan: pan turns it, tilt makes it longer. Degrees; 0, 0 is straight down. */
export function beamOf(pan: number, tilt: number): Point {
  const length = Math.sin((clamp(Math.abs(tilt), 0, 90) * Math.PI) / 180) * Math.sign(tilt || 1);
  const turn = (pan * Math.PI) / 180;
  return [
    length * Math.sin(turn),
    -Math.abs(Math.cos((tilt * Math.PI) / 180)) - length * Math.cos(turn) * 0.35,
  ];
}
