import type { Bead } from "../model/placements";
import { addressOf } from "../model/placements";
import { beadOn, isAligned, keyOf } from "../model/squares";
import type { Picture } from "../stores/pictures";
import { inkNow, mono, sans } from "../theme/tokens";

/** What the painter draws. Squares are `cell` px; `left`, `top`: how far the view is scrolled, px. */
export interface GridScene {
  columns: number;
  rows: number;
  beads: Bead[];
  cell: number;
  left: number;
  top: number;
  width: number;
  height: number;
  picture: Picture | undefined;
  cursor: [number, number] | null;
  held: [number, number] | null;
  /** A drag: from square, to square (null off the grid), pointer in px. */
  drag: { from: [number, number]; to: [number, number] | null; x: number; y: number } | null;
  strand: boolean;
  labels: boolean;
  /** Chosen cells, "<fixture id>:<cell>"; a frame that is being drawn, from square to square. */
  chosen: Set<string>;
  frame: { from: [number, number]; to: [number, number] } | null;
}

/** Room for column and row numbers, px. */
export const MARGIN = { left: 30, top: 22 };
const LABEL_FROM = 56;
/** With labels the bead stands at the left of its square and the words beside it, px. */
const BEAD_AT = 12;

/** Where the bead of a square stands, from the square's left edge. */
const beadX = (scene: GridScene): number =>
  scene.labels && scene.cell >= LABEL_FROM ? BEAD_AT : scene.cell / 2;

/** Where a bead stands, in px: in the middle of what it covers, where that is not one whole square. */
function beadAt(scene: GridScene, bead: Bead): [number, number] {
  const { cell } = scene;
  if (isAligned(bead)) return [bead.x * cell + beadX(scene), bead.y * cell + cell / 2];
  return [(bead.x + bead.w / 2) * cell, (bead.y + bead.h / 2) * cell];
}

export function colourAt(picture: Picture | undefined, x: number, y: number): [number, number, number] {
  if (!picture) return [0, 0, 0];
  const at = (Math.floor(y / picture.step) * picture.columns + Math.floor(x / picture.step)) * 3;
  return [picture.rgb[at] ?? 0, picture.rgb[at + 1] ?? 0, picture.rgb[at + 2] ?? 0];
}

/** Draws the grid, the strand and its beads in their sent colours. */
export function paintGrid(g: CanvasRenderingContext2D, scene: GridScene): void {
  g.clearRect(0, 0, scene.width, scene.height);
  g.fillStyle = inkNow("ground");
  g.fillRect(0, 0, scene.width, scene.height);
  g.save();
  g.beginPath();
  g.rect(MARGIN.left, MARGIN.top, scene.width, scene.height);
  g.clip();
  g.translate(MARGIN.left - scene.left, MARGIN.top - scene.top);
  paintSquares(g, scene);
  if (scene.strand) paintStrand(g, scene);
  paintBeads(g, scene);
  paintMarks(g, scene);
  g.restore();
  paintNumbers(g, scene);
  if (scene.drag) paintDrag(g, scene);
}

function visible(scene: GridScene): [number, number, number, number] {
  const { cell, left, top, width, height, columns, rows } = scene;
  return [
    Math.max(0, Math.floor(left / cell)),
    Math.max(0, Math.floor(top / cell)),
    Math.min(columns - 1, Math.ceil((left + width) / cell)),
    Math.min(rows - 1, Math.ceil((top + height) / cell)),
  ];
}

function paintSquares(g: CanvasRenderingContext2D, scene: GridScene): void {
  const { cell, columns, rows } = scene;
  const [x0, y0, x1, y1] = visible(scene);
  g.fillStyle = inkNow("panel");
  g.fillRect(0, 0, columns * cell, rows * cell);
  g.strokeStyle = inkNow("hair");
  g.lineWidth = 1;
  g.beginPath();
  for (let x = x0; x <= x1 + 1; x++) {
    g.moveTo(x * cell + 0.5, y0 * cell);
    g.lineTo(x * cell + 0.5, (y1 + 1) * cell);
  }
  for (let y = y0; y <= y1 + 1; y++) {
    g.moveTo(x0 * cell, y * cell + 0.5);
    g.lineTo((x1 + 1) * cell, y * cell + 0.5);
  }
  g.stroke();
}

/** The wire: beads joined in address order; cut where it goes on in another universe. */
function paintStrand(g: CanvasRenderingContext2D, scene: GridScene): void {
  const { beads, cell } = scene;
  const seen = [
    scene.left - cell,
    scene.top - cell,
    scene.left + scene.width + cell,
    scene.top + scene.height + cell,
  ];
  const out = (ax: number, ay: number, bx: number, by: number): boolean =>
    Math.max(ax, bx) < (seen[0] ?? 0) ||
    Math.max(ay, by) < (seen[1] ?? 0) ||
    Math.min(ax, bx) > (seen[2] ?? 0) ||
    Math.min(ay, by) > (seen[3] ?? 0);
  g.strokeStyle = inkNow("soft");
  g.lineWidth = cell >= 24 ? 1.6 : 1;
  g.beginPath();
  const cuts: { x: number; y: number; up: number; text: string }[] = [];
  for (let i = 1; i < beads.length; i++) {
    const a = beads[i - 1];
    const b = beads[i];
    if (!a || !b || !Number.isFinite(b.position)) continue;
    const [ax, ay] = beadAt(scene, a);
    const [bx, by] = beadAt(scene, b);
    if (out(ax, ay, bx, by)) continue;
    if (Math.floor(a.position / 512) !== Math.floor(b.position / 512)) {
      cuts.push({
        x: (ax + bx) / 2,
        y: (ay + by) / 2,
        up: ay === by ? cell / 2 : 7,
        text: addressOf(b.position),
      });
      continue;
    }
    g.moveTo(ax, ay);
    g.lineTo(bx, by);
  }
  g.stroke();
  g.font = `500 11.5px ${mono}`;
  for (const cut of cuts) {
    g.beginPath();
    g.moveTo(cut.x - 5, cut.y + 6);
    g.lineTo(cut.x - 1, cut.y - 6);
    g.moveTo(cut.x + 1, cut.y + 6);
    g.lineTo(cut.x + 5, cut.y - 6);
    g.stroke();
    if (cell < 24) continue;
    // With labels it stands over them, at the edge of its square.
    const under = cell >= LABEL_FROM ? -cut.up : 8;
    const width = g.measureText(cut.text).width + 8;
    g.fillStyle = inkNow("ground");
    g.fillRect(cut.x - width / 2, cut.y + under, width, 15);
    g.strokeRect(cut.x - width / 2 + 0.5, cut.y + under + 0.5, width, 15);
    g.fillStyle = inkNow("text");
    g.fillText(cut.text, cut.x - width / 2 + 4, cut.y + under + 12);
  }
}

function paintBeads(g: CanvasRenderingContext2D, scene: GridScene): void {
  const { beads, cell, picture } = scene;
  const [x0, y0, x1, y1] = visible(scene);
  const labels = scene.labels && cell >= LABEL_FROM;
  const radius = labels ? 7 : Math.max(2, cell * 0.34);
  beads.forEach((bead, index) => {
    if (bead.x + bead.w <= x0 || bead.x > x1 + 1 || bead.y + bead.h <= y0 || bead.y > y1 + 1) return;
    const [r, gr, b] = colourAt(picture, Math.floor(bead.x + bead.w / 2), Math.floor(bead.y + bead.h / 2));
    const [cx, cy] = beadAt(scene, bead);
    if (scene.chosen.has(keyOf(bead))) {
      g.fillStyle = inkNow("brassGround");
      g.fillRect(bead.x * cell + 1, bead.y * cell + 1, bead.w * cell - 1, bead.h * cell - 1);
    }
    if (!isAligned(bead)) {
      g.strokeStyle = inkNow("sea");
      g.lineWidth = 1.2;
      g.strokeRect(bead.x * cell + 2.5, bead.y * cell + 2.5, bead.w * cell - 5, bead.h * cell - 5);
    }
    g.beginPath();
    g.arc(cx, cy, radius, 0, Math.PI * 2);
    g.fillStyle = `rgb(${r} ${gr} ${b})`;
    g.fill();
    g.lineWidth = index === 0 ? 2.4 : 1.2;
    g.strokeStyle = inkNow(index === 0 ? "text" : "soft");
    g.stroke();
    if (!labels) return;
    g.font = `500 12px ${mono}`;
    clearText(g, `${bead.fixture.number}:${bead.cell}`, cx + 10, cy - 6, "text");
    g.font = `500 11.5px ${mono}`;
    if (cell >= 64) clearText(g, addressOf(bead.position), cx + 10, cy + 15, "soft");
  });
}

/** Text on a ground of its own, so that the strand never strikes through it. */
function clearText(
  g: CanvasRenderingContext2D,
  text: string,
  x: number,
  y: number,
  colour: "text" | "soft",
): void {
  g.fillStyle = inkNow("panel");
  g.fillRect(x - 2, y - 10, g.measureText(text).width + 4, 13);
  g.fillStyle = inkNow(colour);
  g.fillText(text, x, y);
}

function paintMarks(g: CanvasRenderingContext2D, scene: GridScene): void {
  const { cell } = scene;
  const box = (square: [number, number], dashed: boolean, width: number) => {
    g.setLineDash(dashed ? [5, 4] : []);
    g.lineWidth = width;
    g.strokeStyle = inkNow("brass");
    g.strokeRect(square[0] * cell + 1.5, square[1] * cell + 1.5, cell - 3, cell - 3);
    g.setLineDash([]);
  };
  if (scene.frame) {
    const { from, to } = scene.frame;
    const [x, y] = [Math.min(from[0], to[0]), Math.min(from[1], to[1])];
    g.setLineDash([5, 4]);
    g.lineWidth = 1.5;
    g.strokeStyle = inkNow("brass");
    g.strokeRect(
      x * cell,
      y * cell,
      (Math.abs(to[0] - from[0]) + 1) * cell,
      (Math.abs(to[1] - from[1]) + 1) * cell,
    );
    g.setLineDash([]);
  }
  if (scene.cursor) box(scene.cursor, false, 1.5);
  if (scene.held) box(scene.held, true, 2);
  if (scene.drag) {
    box(scene.drag.from, true, 1.5);
    if (scene.drag.to) box(scene.drag.to, false, 2.5);
  }
}

const WAYS = new WeakMap<Bead[], Map<number, string>>();

/** Which way the strand runs in each column, where it runs one way all along: "up", "down". */
function waysOf(beads: Bead[]): Map<number, string> {
  const known = WAYS.get(beads);
  if (known) return known;
  const steps = new Map<number, [number, number]>();
  for (let n = 1; n < beads.length; n++) {
    const [a, b] = [beads[n - 1], beads[n]];
    if (!a || !b || a.x !== b.x || a.y === b.y) continue;
    const [up, down] = steps.get(a.x) ?? [0, 0];
    steps.set(a.x, b.y < a.y ? [up + 1, down] : [up, down + 1]);
  }
  const found = new Map<number, string>();
  for (const [x, [up, down]] of steps) if (!up || !down) found.set(x, up ? "up" : "down");
  WAYS.set(beads, found);
  return found;
}

function paintNumbers(g: CanvasRenderingContext2D, scene: GridScene): void {
  const { cell, left, top } = scene;
  const [x0, y0, x1, y1] = visible(scene);
  const every = Math.max(1, Math.ceil(26 / cell));
  const ways = scene.strand ? waysOf(scene.beads) : new Map<number, string>();
  g.font = `500 11.5px ${mono}`;
  g.fillStyle = inkNow("soft");
  g.textAlign = "center";
  for (let x = x0; x <= x1; x++)
    if ((x + 1) % every === 0 || every === 1) {
      const at = MARGIN.left - left + x * cell + cell / 2;
      const way = ways.get(x) ?? "";
      if (at >= MARGIN.left)
        g.fillText(cell >= LABEL_FROM && way ? `${x + 1} ${way}` : String(x + 1), at, 15);
    }
  g.textAlign = "right";
  for (let y = y0; y <= y1; y++)
    if ((y + 1) % every === 0 || every === 1) {
      const at = MARGIN.top - top + y * cell + cell / 2 + 4;
      if (at >= MARGIN.top + 4) g.fillText(String(y + 1), MARGIN.left - 6, at);
    }
  g.textAlign = "left";
}

function paintDrag(g: CanvasRenderingContext2D, scene: GridScene): void {
  const { drag, beads } = scene;
  if (!drag) return;
  const find = (square: [number, number] | null) => square && beadOn(beads, square);
  const name = (bead: Bead | null | undefined) => (bead ? `${bead.fixture.number}:${bead.cell}` : "");
  const moving = find(drag.from);
  const target = find(drag.to);
  const text =
    target && target !== moving
      ? `exchange with ${name(target)}`
      : drag.to
        ? "move here"
        : "back to the tray";
  g.font = `500 12.5px ${sans}`;
  const width = g.measureText(text).width + g.measureText(name(moving)).width + 34;
  const x = Math.min(drag.x + 14, scene.width - width - 4);
  const y = drag.y + 14;
  g.fillStyle = inkNow("panel");
  g.strokeStyle = inkNow("brass");
  g.lineWidth = 1;
  g.beginPath();
  g.roundRect(x, y, width, 28, 4);
  g.fill();
  g.stroke();
  g.fillStyle = inkNow("text");
  g.fillText(name(moving), x + 10, y + 18);
  g.fillStyle = inkNow("brass");
  g.fillText(text, x + 22 + g.measureText(name(moving)).width, y + 18);
}
