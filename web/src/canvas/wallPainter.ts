import type { WholeShow } from "../api/client";
import { beadsOf } from "../model/placements";
import { inkNow } from "../theme/tokens";

/** A matrix as it is painted from the colours of all cells: for each of its squares the cell that lies there, -1 none. */
export interface Wall {
  width: number;
  height: number;
  cells: Int32Array;
}

const MOST = 8;
const TALL = 10;
const WIDE = 34;
const GAP = 1.2;

/** The first matrices of a show, with the cells on their squares. */
export function wallsOf(show: WholeShow): Wall[] {
  const first = new Map<string, number>();
  let count = 0;
  for (const one of show.fixtures) {
    first.set(one.id, count);
    count += one.cells;
  }
  return show.matrices.slice(0, MOST).map((matrix) => {
    const cells = new Int32Array(matrix.width * matrix.height).fill(-1);
    for (const bead of beadsOf(matrix, show.fixtures)) {
      const cell = (first.get(bead.fixture.id) ?? 0) + Number(bead.cell) - 1;
      const [left, top] = [Math.round(bead.x), Math.round(bead.y)];
      for (let y = top; y < Math.min(top + Math.max(Math.round(bead.h), 1), matrix.height); y++)
        for (let x = left; x < Math.min(left + Math.max(Math.round(bead.w), 1), matrix.width); x++)
          cells[y * matrix.width + x] = cell;
    }
    return { width: matrix.width, height: matrix.height, cells };
  });
}

/** Walls side by side, as large as there is room. */
export function paintWalls(
  context: CanvasRenderingContext2D,
  walls: readonly Wall[],
  rgb: Uint8Array,
  width: number,
  height: number,
): void {
  context.fillStyle = inkNow("ground");
  context.fillRect(0, 0, width, height);
  const sizes = walls.map((wall) => Math.min(TALL / wall.height, WIDE / wall.width));
  const whole = walls.reduce((sum, wall, n) => sum + wall.width * (sizes[n] ?? 1) + GAP, -GAP);
  const scale = Math.min((width - 16) / Math.max(whole, 1), (height - 16) / TALL);
  let left = (width - whole * scale) / 2;
  context.imageSmoothingEnabled = false;
  walls.forEach((wall, n) => {
    const square = (sizes[n] ?? 1) * scale;
    const [w, h] = [wall.width * square, wall.height * square];
    context.drawImage(pictureOf(wall, rgb), left, (height - h) / 2, w, h);
    left += w + GAP * scale;
  });
}

/** One wall as large as there is room within a box, in its middle; one that is much taller or flatter is stretched. */
export function paintWall(
  context: CanvasRenderingContext2D,
  wall: Wall,
  rgb: Uint8Array,
  box: { x: number; y: number; w: number; h: number },
): void {
  const scale = Math.min(box.w / wall.width, box.h / wall.height);
  const [w, h] = [Math.max(wall.width * scale, box.w / 2), Math.max(wall.height * scale, 5)];
  context.imageSmoothingEnabled = false;
  context.drawImage(pictureOf(wall, rgb), box.x + (box.w - w) / 2, box.y + (box.h - h) / 2, w, h);
}

function pictureOf(wall: Wall, rgb: Uint8Array): OffscreenCanvas {
  const canvas = new OffscreenCanvas(wall.width, wall.height);
  const context = canvas.getContext("2d");
  if (!context) return canvas;
  const image = context.createImageData(wall.width, wall.height);
  const data = image.data;
  for (let at = 0; at < wall.cells.length; at++) {
    const cell = (wall.cells[at] ?? -1) * 3;
    if (cell < 0) continue;
    data[at * 4] = rgb[cell] ?? 0;
    data[at * 4 + 1] = rgb[cell + 1] ?? 0;
    data[at * 4 + 2] = rgb[cell + 2] ?? 0;
    data[at * 4 + 3] = 255;
  }
  context.putImageData(image, 0, 0);
  return canvas;
}
