import type { Bead } from "./placements";

export type Square = [number, number];

/** Whether a bead stands on one whole square; else it is placed freely. */
export const isAligned = (bead: Bead): boolean =>
  bead.w === 1 && bead.h === 1 && Number.isInteger(bead.x) && Number.isInteger(bead.y);

/** The cell that covers the middle of a square; of several the one that stands whole on it. */
export function beadOn(beads: Bead[], square: Square): Bead | undefined {
  const [x, y] = [square[0] + 0.5, square[1] + 0.5];
  let found: Bead | undefined;
  for (const one of beads)
    if (x >= one.x && x < one.x + one.w && y >= one.y && y < one.y + one.h) {
      if (isAligned(one)) return one;
      found ??= one;
    }
  return found;
}

const short = (value: number): string => String(Number(value.toFixed(3)));

/** "3, 1" for a whole square, "3.5, 1, 2 × 1" for anything else; counted from 1. */
export function sayPlace(bead: Bead): string {
  const at = `${short(bead.x + 1)}, ${short(bead.y + 1)}`;
  return bead.w === 1 && bead.h === 1 ? at : `${at}, ${short(bead.w)} × ${short(bead.h)}`;
}

/** Reads "3.5, 1" or "3.5, 1, 2 x 1" as squares from 0; a sentence where it cannot be read. */
export function readPlace(text: string): { x: number; y: number; w: number; h: number } | string {
  const number = "(\\d+(?:\\.\\d+)?)";
  const match = new RegExp(
    `^\\s*${number}\\s*[,;]\\s*${number}(?:\\s*[,;]\\s*${number}\\s*[x×*]\\s*${number})?\\s*$`,
  ).exec(text);
  if (!match) return "Type column, row and size, such as 3.5, 1, 2 x 1.";
  const [x, y, w, h] = match.slice(1).map((part) => (part === undefined ? 1 : Number(part)));
  if (!x || !y || x < 1 || y < 1) return "Columns and rows count from 1.";
  if (!w || !h) return "A cell covers more than nothing.";
  return { x: x - 1, y: y - 1, w, h };
}

/** Squares of a frame from one corner to the other. */
export const inFrame = (a: Square, b: Square) => (bead: Bead) =>
  bead.x + bead.w / 2 > Math.min(a[0], b[0]) &&
  bead.x + bead.w / 2 < Math.max(a[0], b[0]) + 1 &&
  bead.y + bead.h / 2 > Math.min(a[1], b[1]) &&
  bead.y + bead.h / 2 < Math.max(a[1], b[1]) + 1;

/** "5-20, 30" of the strand (from 1) as indexes of its beads; a sentence where it cannot be read. */
export function readStrand(text: string, count: number): number[] | string {
  const found = new Set<number>();
  for (const part of text.split(",")) {
    const match = /^\s*(\d+)(?:\s*-\s*(\d+))?\s*$/.exec(part);
    if (!match) return "Type places along the strand, such as 5-20.";
    const [first, last] = [Number(match[1]), Number(match[2] ?? match[1])];
    if (first < 1 || last < first || last > count) return `The strand has ${count} cells, 1 to ${count}.`;
    for (let n = first; n <= last; n++) found.add(n - 1);
  }
  return [...found];
}

export const keyOf = (bead: Bead): string => `${bead.fixture.id}:${bead.cell}`;

/** Rows of numbers, as they are typed in again: "101:1, 101:2"; an empty square stays empty. */
export function asNumbers(chosen: Bead[]): string {
  const plain = chosen.filter(isAligned);
  if (!plain.length) return "";
  const [left, top] = [Math.min(...plain.map((one) => one.x)), Math.min(...plain.map((one) => one.y))];
  const [right, bottom] = [Math.max(...plain.map((one) => one.x)), Math.max(...plain.map((one) => one.y))];
  const at = new Map(plain.map((one) => [`${one.x},${one.y}`, `${one.fixture.number}:${one.cell}`]));
  const rows: string[] = [];
  for (let y = top; y <= bottom; y++) {
    const row: string[] = [];
    for (let x = left; x <= right; x++) row.push(at.get(`${x},${y}`) ?? "");
    rows.push(row.join(", "));
  }
  return rows.join("\n");
}
