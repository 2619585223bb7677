import type { MarkKind } from "../model/walks";
import type { Picture } from "../stores/pictures";
import { inkNow } from "../theme/tokens";
import { drawPicture } from "./drawPicture";
import { colourAt } from "./strandPainter";

export interface LampsScene {
  width: number;
  height: number;
  /** Size of a square in px. */
  size: number;
  picture: Picture | undefined;
  /** Squares that carry a cell, "x,y". */
  squares: { x: number; y: number; w: number; h: number }[];
  marks: Map<string, MarkKind>;
  /** What the walk lights now. */
  lit: [number, number][];
  over: [number, number] | null;
}

/** More lamps than these are drawn as one image: as discs 50,000 would take the whole frame. */
const LAMPS_MOST = 6000;

const small = new OffscreenCanvas(1, 1);

/** Draws a matrix as it is lit, with what was marked on its cells: each mark has a shape of its own. */
export function paintLamps(canvas: HTMLCanvasElement, scene: LampsScene): void {
  const g = canvas.getContext("2d");
  if (!g) return;
  const ratio = window.devicePixelRatio;
  const [wide, high] = [Math.ceil(scene.width * scene.size), Math.ceil(scene.height * scene.size)];
  if (canvas.width !== wide * ratio || canvas.height !== high * ratio) {
    canvas.width = wide * ratio;
    canvas.height = high * ratio;
  }
  g.setTransform(ratio, 0, 0, ratio, 0, 0);
  g.fillStyle = inkNow("lamp");
  g.fillRect(0, 0, wide, high);
  const { size, picture } = scene;
  const empty = inkNow("hair");
  const asImage = picture !== undefined && (size < 5 || scene.squares.length > LAMPS_MOST);
  if (asImage) {
    drawPicture(small, picture.columns, picture.rows, picture.rgb);
    g.imageSmoothingEnabled = false;
    g.drawImage(small, 0, 0, wide, high);
  }
  for (const one of scene.squares) {
    const marked = scene.marks.get(`${one.x},${one.y}`);
    if (asImage && (!marked || marked === "good")) continue;
    const [r, gr, b] = colourAt(scene.picture, Math.floor(one.x), Math.floor(one.y));
    const [x, y] = [one.x * size, one.y * size];
    const [w, h] = [one.w * size, one.h * size];
    g.fillStyle = `rgb(${r} ${gr} ${b})`;
    if (asImage) {
      if (marked) sign(g, marked, x + w / 2, y + h / 2, Math.max(6, Math.min(w, h)));
      continue;
    }
    g.beginPath();
    g.ellipse(x + w / 2, y + h / 2, w * 0.4, h * 0.4, 0, 0, 7);
    g.fill();
    if (r + gr + b < 30) {
      g.strokeStyle = empty;
      g.lineWidth = 1;
      g.stroke();
    }
    if (marked) sign(g, marked, x + w / 2, y + h / 2, Math.min(w, h));
  }
  g.strokeStyle = inkNow("brass");
  g.lineWidth = size < 14 ? 1 : 2;
  for (const [x, y] of scene.lit.length <= 400 ? scene.lit : [])
    g.strokeRect(x * size + 1, y * size + 1, Math.max(2, size - 2), Math.max(2, size - 2));
  if (scene.over) {
    g.strokeStyle = inkNow("text");
    g.lineWidth = 1;
    g.strokeRect(scene.over[0] * size + 0.5, scene.over[1] * size + 0.5, size - 1, size - 1);
  }
}

function sign(g: CanvasRenderingContext2D, kind: MarkKind, x: number, y: number, size: number): void {
  const r = Math.max(2, size * 0.44);
  g.save();
  g.strokeStyle = inkNow(kind === "good" ? "sea" : "brass");
  g.fillStyle = g.strokeStyle;
  g.lineWidth = Math.max(1, size / 12);
  g.beginPath();
  if (kind === "good") {
    g.arc(x, y, r, 0, 7);
  } else if (kind === "dark") {
    g.setLineDash([size / 6, size / 6]);
    g.arc(x, y, r, 0, 7);
  } else if (kind === "wrong place") {
    g.moveTo(x - r, y - r / 3);
    g.lineTo(x + r, y - r / 3);
    g.lineTo(x + r / 3, y - r);
    g.moveTo(x + r, y + r / 3);
    g.lineTo(x - r, y + r / 3);
    g.lineTo(x - r / 3, y + r);
  } else {
    g.arc(x, y, r, 0, 7);
    g.moveTo(x, y - r);
    g.arc(x, y, r, -Math.PI / 2, Math.PI / 2);
    g.fill();
  }
  g.stroke();
  g.restore();
}
