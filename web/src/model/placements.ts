import type { FixtureView, MatrixView } from "../api/client";

/** One cell on a matrix, resolved against the rig. */
export interface Bead {
  fixture: FixtureView;
  cell: string;
  x: number;
  y: number;
  /** Squares it covers to the right and down. */
  w: number;
  h: number;
  /** Absolute 0-based position of its first channel, for the strand's order; Infinity if unpatched. */
  position: number;
}

/** "U3.201" as an absolute 0-based position. */
export function positionOf(address: string): number {
  const match = /^U(\d+)\.(\d+)$/.exec(address);
  return match ? (Number(match[1]) - 1) * 512 + Number(match[2]) - 1 : Number.POSITIVE_INFINITY;
}

export function addressOf(position: number): string {
  if (!Number.isFinite(position)) return "no address";
  return `U${Math.floor(position / 512) + 1}.${(position % 512) + 1}`;
}

/** The first channel of a cell, counted over all blocks, as the server has it; Infinity where its block lies nowhere. */
export function cellPosition(fixture: FixtureView, cell: number): number {
  let left = cell;
  for (const block of fixture.blocks) {
    if (left > block.cells) {
      left -= block.cells;
      continue;
    }
    const run = block.runs.find((one) => left >= one.cell && left < one.cell + one.count);
    return run ? run.position + (left - run.cell) * block.size : Number.POSITIVE_INFINITY;
  }
  return Number.POSITIVE_INFINITY;
}

const packedOf = (matrix: MatrixView): Float32Array =>
  new Float32Array(Uint8Array.from(atob(matrix.placements.packed), (c) => c.charCodeAt(0)).buffer);

/** How many of a matrix's cells are of these fixtures, and of how many. */
export function countOn(matrix: MatrixView, ids: Set<string>): [number, number] {
  const packed = packedOf(matrix);
  const theirs = matrix.placements.fixtures.map((id) => ids.has(id));
  let [found, all] = [0, 0];
  for (let i = 0; i + 5 < packed.length; i += 6) {
    if ((packed[i + 2] ?? 0) >= matrix.width || (packed[i + 3] ?? 0) >= matrix.height) continue;
    all++;
    if (theirs[packed[i] ?? -1]) found++;
  }
  return [found, all];
}

/** The matrix's cells in strand (address) order. */
export function beadsOf(matrix: MatrixView, fixtures: FixtureView[]): Bead[] {
  const packed = packedOf(matrix);
  const byId = new Map(fixtures.map((f) => [f.id, f]));
  const beads: Bead[] = [];
  for (let i = 0; i + 5 < packed.length; i += 6) {
    const fixture = byId.get(matrix.placements.fixtures[packed[i] ?? -1] ?? "");
    const cell = matrix.placements.cells[packed[i + 1] ?? -1];
    if (!fixture || cell === undefined) continue;
    const [x, y] = [packed[i + 2] ?? 0, packed[i + 3] ?? 0];
    if (x >= matrix.width || y >= matrix.height) continue; // off a matrix that was larger once: it waits there
    const [w, h] = [packed[i + 4] ?? 1, packed[i + 5] ?? 1];
    beads.push({ fixture, cell, x, y, w, h, position: cellPosition(fixture, Number(cell)) });
  }
  return beads.sort((a, b) => (a.position === b.position ? 0 : a.position - b.position));
}
