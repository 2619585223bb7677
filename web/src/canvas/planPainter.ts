import { cornersOf, type PlanItem, type PlanView, type Point, toWorld } from "../model/plan";
import { type Ink, inkNow, mono, sans } from "../theme/tokens";

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
  grid: number;
  picture: { image: HTMLImageElement; x: number; y: number; w: number; h: number } | null;
  /** What is dragged out: a line, an area, a circle or a frame, in metres. */
  drawn: { kind: "row" | "grid" | "ring" | "frame"; from: Point; to: Point } | null;
}

const BEAM_M = 1.6;
const NUMBER_FROM = 14;

/** Metres to pixels of the canvas. */
export const toScreen = (scene: PlanScene, [x, y]: Point): [number, number] => [
  scene.width / 2 + (x - scene.view.x) * scene.view.scale,
  scene.height / 2 - (y - scene.view.y) * scene.view.scale,
];

export function paintPlan(context: CanvasRenderingContext2D, scene: PlanScene): void {
  context.fillStyle = inkNow("ground");
  context.fillRect(0, 0, scene.width, scene.height);
  paintPicture(context, scene);
  paintGrid(context, scene);
  const taken = new Set<string>();
  for (const lamp of scene.lamps) paintLamp(context, scene, lamp, taken);
  for (const item of scene.others) paintOther(context, scene, item);
  if (scene.drawn) paintDrawn(context, scene, scene.drawn);
  paintScale(context, scene);
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

/** `taken`: places of the screen where a number stands already; a second one there would be unreadable. */
function paintLamp(
  context: CanvasRenderingContext2D,
  scene: PlanScene,
  lamp: PlanLamp,
  taken: Set<string>,
): void {
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
  if (beam) {
    context.strokeStyle = inkNow("sea");
    context.lineWidth = 1.5;
    context.beginPath();
    context.moveTo(cx, cy);
    context.lineTo(cx + beam[0] * BEAM_M * scene.view.scale, cy - beam[1] * BEAM_M * scene.view.scale);
    context.stroke();
  }
  const tall = item.h * scene.view.scale;
  if (!scene.labels || (item.w * scene.view.scale < NUMBER_FROM && tall < NUMBER_FROM && !chosen)) return;
  const lowest = Math.max(...corners.map(([, y]) => y));
  const says = lamp.guarded ? `${lamp.number} ${lamp.armed ? "armed" : "safe"}` : String(lamp.number);
  const spots = [-1, 0, 1].map((n) => `${Math.round(cx / 12) + n} ${Math.round(lowest / 14)}`);
  if (spots.some((spot) => taken.has(spot))) return;
  for (const spot of spots) taken.add(spot);
  write(context, says, cx, lowest + 12, chosen ? "brass" : lamp.guarded ? "coral" : "soft", mono, "center");
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
  write(context, item.text, x + 13, y + 4, chosen ? "brass" : "soft", mono, "left");
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
  context.fillStyle = inkNow(colour);
  context.fillText(text, x, y);
}
