import { cornersOf, type PlanItem, type PlanView, type Point, toWorld } from "../model/plan";
import { type Ink, inkNow, mono, sans } from "../theme/tokens";
import { FreeSpots } from "./freeSpots";

/** A fixture as it is drawn: its item, the places of its cells on its face, and where its colours begin. */
export interface PlanLamp {
  item: PlanItem;
  number: number;
  points: Point[];
  /** Index of its first cell in the colours of all cells. */
  firstCell: number;
  guarded: boolean;
  armed: boolean;
  /** Where it points, as a vector of at most 1; null where it cannot. */
  beam: () => Point | null;
  /** Where that goes in the next round, likewise. */
  trail?: Point[] | undefined;
}

export interface PlanScene {
  view: PlanView;
  width: number;
  height: number;
  lamps: PlanLamp[];
  others: PlanItem[];
  chosen: Set<string>;
  rgb: Uint8Array;
  labels: boolean;
  /** What would be added, where it would hang. */
  coming?: PlanItem[];
  grid: number;
  /** Lamps and the picture behind them alone: no grid, no scale. */
  bare?: boolean;
  picture: { image: HTMLImageElement; x: number; y: number; w: number; h: number } | null;
  /** What is dragged out: a line, an area, a circle or a frame, in metres. */
  drawn: { kind: "row" | "grid" | "ring" | "frame"; from: Point; to: Point } | null;
}

const BEAM_M = 1.6;
const NUMBER_FROM = 14;
/** A word that begins so far from the edge is moved to be read whole; one further out has its place elsewhere. */
const CLAMPED_PX = 160;

/** Metres to pixels of the canvas. */
export const toScreen = (scene: PlanScene, [x, y]: Point): [number, number] => [
  scene.width / 2 + (x - scene.view.x) * scene.view.scale,
  scene.height / 2 - (y - scene.view.y) * scene.view.scale,
];

export function paintPlan(context: CanvasRenderingContext2D, scene: PlanScene): void {
  context.fillStyle = inkNow("ground");
  context.fillRect(0, 0, scene.width, scene.height);
  paintPicture(context, scene);
  if (!scene.bare) paintGrid(context, scene);
  for (const lamp of scene.lamps) paintLamp(context, scene, lamp);
  for (const item of scene.others) paintOther(context, scene, item);
  if (scene.coming) paintComing(context, scene, scene.coming);
  if (scene.labels) paintNumbers(context, scene);
  if (scene.drawn) paintDrawn(context, scene, scene.drawn);
  if (!scene.bare) paintScale(context, scene);
}

function paintPicture(context: CanvasRenderingContext2D, scene: PlanScene): void {
  const { picture } = scene;
  if (!picture?.image.complete || !picture.image.naturalWidth) return;
  const [left, top] = toScreen(scene, [picture.x - picture.w / 2, picture.y + picture.h / 2]);
  context.globalAlpha = 0.45;
  context.drawImage(picture.image, left, top, picture.w * scene.view.scale, picture.h * scene.view.scale);
  context.globalAlpha = 1;
}

/** Small crosses where the grid's lines meet, as far apart as the eye can part them. */
function paintGrid(context: CanvasRenderingContext2D, scene: PlanScene): void {
  let step = scene.grid || 1;
  while (step * scene.view.scale < 26) step *= 2;
  const across = scene.width / scene.view.scale / 2;
  const up = scene.height / scene.view.scale / 2;
  context.fillStyle = inkNow("hair");
  for (let x = Math.ceil((scene.view.x - across) / step) * step; x <= scene.view.x + across; x += step)
    for (let y = Math.ceil((scene.view.y - up) / step) * step; y <= scene.view.y + up; y += step) {
      const [px, py] = toScreen(scene, [x, y]);
      context.fillRect(px - 2, py, 5, 1);
      context.fillRect(px, py - 2, 1, 5);
    }
}

function paintLamp(context: CanvasRenderingContext2D, scene: PlanScene, lamp: PlanLamp): void {
  const { item } = lamp;
  const chosen = scene.chosen.has(item.id);
  const corners = cornersOf(item).map((corner) => toScreen(scene, corner));
  if (corners.every(([x, y]) => x < -50 || y < -50 || x > scene.width + 50 || y > scene.height + 50)) return;
  outline(context, corners);
  context.fillStyle = inkNow("lamp");
  context.fill();
  context.lineWidth = chosen ? 1.6 : 1;
  context.strokeStyle = inkNow(chosen ? "brass" : lamp.guarded ? "coral" : "hair2");
  context.stroke();
  const pitch = Math.sqrt((item.w * item.h) / Math.max(lamp.points.length, 1));
  const size = Math.max(1.5, Math.min(pitch, item.w, item.h) * scene.view.scale * 0.78);
  lamp.points.forEach((point, n) => {
    const index = (lamp.firstCell + n) * 3;
    const [x, y] = toScreen(scene, toWorld(item, point));
    const [red = 0, green = 0, blue = 0] = scene.rgb.subarray(index, index + 3);
    context.fillStyle = red + green + blue > 6 ? `rgb(${red} ${green} ${blue})` : inkNow("row");
    context.fillRect(x - size / 2, y - size / 2, size, size);
  });
  const [cx, cy] = toScreen(scene, [item.x, item.y]);
  const beam = lamp.beam();
  if (beam && lamp.trail) paintTrail(context, scene, [cx, cy], lamp.trail);
  if (beam) {
    context.strokeStyle = inkNow("sea");
    context.lineWidth = 1.5;
    context.beginPath();
    context.moveTo(cx, cy);
    context.lineTo(cx + beam[0] * BEAM_M * scene.view.scale, cy - beam[1] * BEAM_M * scene.view.scale);
    context.stroke();
  }
}

/** Numbers beneath the lamps, or above where another lamp hangs beneath; none where there is no room for it. */
function paintNumbers(context: CanvasRenderingContext2D, scene: PlanScene): void {
  const spots = new FreeSpots(scene.width, scene.height);
  const boxes = scene.lamps.map(({ item }) => {
    const corners = cornersOf(item).map((corner) => toScreen(scene, corner));
    const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
    const [left, top] = [Math.min(...xs), Math.min(...ys)];
    return { left, top, width: Math.max(...xs) - left, height: Math.max(...ys) - top };
  });
  for (const box of boxes) spots.take(box.left, box.top, box.width, box.height);
  for (const item of scene.coming ?? []) {
    const [x, y] = toScreen(scene, [item.x, item.y]);
    const [w, h] = [item.w * scene.view.scale, item.h * scene.view.scale];
    spots.take(x - w / 2, y - h / 2, w, h);
  }
  for (const item of scene.others) {
    const [x, y] = toScreen(scene, [item.x, item.y]);
    spots.take(x, y - 12, 8 * item.text.length, 14);
  }
  scene.lamps.forEach((lamp, n) => {
    const box = boxes[n];
    const chosen = scene.chosen.has(lamp.item.id);
    if (!box || (box.width < NUMBER_FROM && box.height < NUMBER_FROM && !chosen)) return;
    const says = lamp.guarded ? `${lamp.number} ${lamp.armed ? "armed" : "safe"}` : String(lamp.number);
    const wide = 7 * says.length;
    const middle = box.left + box.width / 2;
    for (const top of [box.top + box.height + 3, box.top - 14]) {
      if (!spots.isFree(middle - wide / 2, top, wide, 10)) continue;
      spots.take(middle - wide / 2 - 3, top, wide + 6, 10);
      const colour = chosen ? "brass" : lamp.guarded ? "coral" : "soft";
      write(context, says, middle, top + 9, colour, mono, "center");
      return;
    }
  });
}

/** Fixtures that would be added, dashed where they would come to hang. */
function paintComing(context: CanvasRenderingContext2D, scene: PlanScene, coming: PlanItem[]): void {
  context.strokeStyle = inkNow("brass");
  context.lineWidth = 1.2;
  context.setLineDash([4, 3]);
  for (const item of coming) {
    outline(
      context,
      cornersOf(item).map((corner) => toScreen(scene, corner)),
    );
    context.stroke();
  }
  context.setLineDash([]);
}

/** The light that a head draws in the next round. */
function paintTrail(
  context: CanvasRenderingContext2D,
  scene: PlanScene,
  [cx, cy]: [number, number],
  trail: Point[],
): void {
  context.strokeStyle = inkNow("sea");
  context.globalAlpha = 0.45;
  context.lineWidth = 2.5;
  context.beginPath();
  trail.forEach(([x, y], n) => {
    const at: [number, number] = [cx + x * BEAM_M * scene.view.scale, cy - y * BEAM_M * scene.view.scale];
    if (n) context.lineTo(...at);
    else context.moveTo(...at);
  });
  context.stroke();
  context.globalAlpha = 1;
}

function paintOther(context: CanvasRenderingContext2D, scene: PlanScene, item: PlanItem): void {
  const [x, y] = toScreen(scene, [item.x, item.y]);
  const chosen = scene.chosen.has(item.id);
  if (item.kind === "label") {
    write(context, item.text, x, y, chosen ? "brass" : "text", sans, "left", 13);
    return;
  }
  context.strokeStyle = inkNow(chosen ? "brass" : "sea");
  context.lineWidth = 1.4;
  context.strokeRect(x - 8, y - 5, 16, 10);
  context.beginPath();
  for (const port of [-4, 0, 4]) {
    context.moveTo(x + port, y + 5);
    context.lineTo(x + port, y + 9);
  }
  context.stroke();
  const right = x + 13 + 7 * item.text.length < scene.width;
  write(
    context,
    item.text,
    right ? x + 13 : x - 13,
    y + 4,
    chosen ? "brass" : "soft",
    mono,
    right ? "left" : "right",
  );
}

function paintDrawn(
  context: CanvasRenderingContext2D,
  scene: PlanScene,
  { kind, from, to }: NonNullable<PlanScene["drawn"]>,
): void {
  const [ax, ay] = toScreen(scene, from);
  const [bx, by] = toScreen(scene, to);
  context.strokeStyle = inkNow("brass");
  context.lineWidth = 1;
  context.setLineDash([4, 3]);
  context.beginPath();
  if (kind === "row") {
    context.moveTo(ax, ay);
    context.lineTo(bx, by);
  } else if (kind === "ring") context.arc(ax, ay, Math.hypot(bx - ax, by - ay), 0, 2 * Math.PI);
  else context.rect(Math.min(ax, bx), Math.min(ay, by), Math.abs(bx - ax), Math.abs(by - ay));
  context.stroke();
  context.setLineDash([]);
  const [w, h] = [Math.abs(to[0] - from[0]), Math.abs(to[1] - from[1])];
  const length = Math.hypot(w, h);
  const says = kind === "grid" ? `${w.toFixed(1)} x ${h.toFixed(1)} m` : `${length.toFixed(1)} m`;
  if (kind !== "frame") write(context, says, bx + 10, by - 6, "brass", mono, "left");
}

/** A bar of a round number of metres at the upper right. */
function paintScale(context: CanvasRenderingContext2D, scene: PlanScene): void {
  const metres = [0.5, 1, 2, 5, 10, 20, 50, 100].find((one) => one * scene.view.scale >= 60) ?? 200;
  const length = metres * scene.view.scale;
  const right = scene.width - 16;
  context.fillStyle = inkNow("text");
  context.fillRect(right - length, 18, length, 1);
  context.fillRect(right - length, 15, 1, 7);
  context.fillRect(right, 15, 1, 7);
  write(context, `${metres} m`, right - length - 8, 22, "soft", mono, "right");
}

function outline(context: CanvasRenderingContext2D, corners: [number, number][]): void {
  context.beginPath();
  corners.forEach(([x, y], n) => {
    if (n) context.lineTo(x, y);
    else context.moveTo(x, y);
  });
  context.closePath();
}

function write(
  context: CanvasRenderingContext2D,
  text: string,
  x: number,
  y: number,
  colour: Ink,
  face: string,
  align: CanvasTextAlign,
  size = 11.5,
): void {
  context.font = `500 ${size}px ${face}`;
  context.textAlign = align;
  // What begins on the canvas is read whole.
  const over =
    align !== "left"
      ? 0
      : x + context.measureText(text).width + 4 - context.canvas.width / window.devicePixelRatio;
  const from = over > 0 && over < CLAMPED_PX ? Math.max(x - over, 4) : x;
  context.fillStyle = inkNow(colour);
  context.fillText(text, from, y);
}
