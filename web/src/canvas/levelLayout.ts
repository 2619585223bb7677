import type { Schemas } from "../api/client";

export const CELL = { width: 23, height: 20 };
export const LEFT = 52;
const HEAD = 16;

/** Where each of 512 channels stands on the map, and the words between them. */
export interface LevelLayout {
  /** Left and top of each channel by its number from 1, px; NaN where it stands nowhere. */
  x: Float64Array;
  y: Float64Array;
  words: { x: number; y: number; text: string; kind: "number" | "fixture" | "head" }[];
  width: number;
  height: number;
}

const ACROSS = 24;
const empty = (width: number, height: number): LevelLayout => ({
  x: new Float64Array(513).fill(Number.NaN),
  y: new Float64Array(513).fill(Number.NaN),
  words: [],
  width,
  height,
});

/** 24 channels on each line, whoever owns them. */
export function plainLayout(): LevelLayout {
  const rows = Math.ceil(512 / ACROSS);
  const found = empty(LEFT + ACROSS * CELL.width, rows * CELL.height);
  for (let n = 1; n <= 512; n++) {
    const [row, column] = [Math.floor((n - 1) / ACROSS), (n - 1) % ACROSS];
    found.x[n] = LEFT + column * CELL.width;
    found.y[n] = row * CELL.height;
    if (!column) found.words.push({ x: LEFT - 8, y: row * CELL.height, text: String(n), kind: "number" });
  }
  return found;
}

/** Lines folded at the fixture, as the server has them. */
export function foldedLayout({ lines, columns }: Pick<Schemas["Levels"], "lines" | "columns">): LevelLayout {
  let top = 0;
  const found = empty(LEFT + columns * CELL.width, 0);
  for (const line of lines) {
    if (line.head.length) {
      top += top ? 4 : 0;
      for (const { column, word } of line.head)
        found.words.push({ x: LEFT + (column + 0.5) * CELL.width, y: top, text: word, kind: "head" });
      top += HEAD;
    } else if (top) top += line.fixtures ? 3 : 0;
    const first = line.spans[0]?.first;
    const text = line.fixtures || (first === undefined ? "" : String(first));
    found.words.push({ x: LEFT - 8, y: top, text, kind: line.fixtures ? "fixture" : "number" });
    for (const span of line.spans)
      for (let n = 0; n < span.count; n++) {
        found.x[span.first + n] = LEFT + (span.column + n) * CELL.width;
        found.y[span.first + n] = top;
      }
    top += CELL.height;
  }
  found.height = Math.max(top, CELL.height);
  return found;
}

/** The channel at a point of the map; 0 where none stands. */
export function channelAt(layout: LevelLayout, px: number, py: number): number {
  for (let n = 1; n <= 512; n++) {
    const [x, y] = [layout.x[n] ?? Number.NaN, layout.y[n] ?? Number.NaN];
    if (px >= x && px < x + CELL.width && py >= y && py < y + CELL.height) return n;
  }
  return 0;
}

/** The channel that an arrow leads to: beside it, or the nearest on the line above or below. */
export function channelBeside(layout: LevelLayout, from: number, key: string): number | null {
  if (key === "ArrowLeft" || key === "ArrowRight") {
    const step = key === "ArrowLeft" ? -1 : 1;
    for (let n = from + step; n >= 1 && n <= 512; n += step)
      if (!Number.isNaN(layout.x[n] ?? Number.NaN)) return n;
    return from;
  }
  if (key === "Home" || key === "End")
    return channelBeside(layout, key === "Home" ? 0 : 513, key === "Home" ? "ArrowRight" : "ArrowLeft");
  if (key !== "ArrowUp" && key !== "ArrowDown") return null;
  const [x, y] = [layout.x[from] ?? 0, layout.y[from] ?? 0];
  const down = key === "ArrowDown" ? 1 : -1;
  let [best, near] = [from, Number.POSITIVE_INFINITY];
  for (let n = 1; n <= 512; n++) {
    const [dx, dy] = [Math.abs((layout.x[n] ?? Number.NaN) - x), ((layout.y[n] ?? Number.NaN) - y) * down];
    // A line further off counts more than any column on the nearest.
    if (dy > 0 && dy * 1000 + dx < near) [best, near] = [n, dy * 1000 + dx];
  }
  return best;
}
