import { type Base, written } from "../model/why";
import { type Ink, inkNow, mono, sans, themeNow } from "../theme/tokens";
import { CELL, type LevelLayout } from "./levelLayout";

const EMITTER: Record<string, string> = { red: "#a8322b", green: "#2c7a41", blue: "#2c4fb0" };

export interface MapScene {
  canvas: HTMLCanvasElement | null;
  layout: LevelLayout;
  values: Uint8Array | undefined;
  owners: Map<number, { label: string }[]>;
  /** Who writes a channel over what looks make, as why calls it. */
  marks: Map<number, string>;
  channel: number;
  base: Base;
  /** When each channel changed last, on the page's clock. */
  changed: Float64Array;
}

const CHANGE_SHOWN_MS = 800;
const CORNER = 4;
const SIDE = 6;

/** What stands in each cell of a canvas, in words; what stands there already is not drawn again. */
const drawn = new WeakMap<HTMLCanvasElement, { whole: string; layout: LevelLayout; cells: string[] }>();

/** Draws 512 values; how long the bar is says the level, its colour the emitter that owns the channel. */
export function paint(scene: MapScene): void {
  const { canvas, layout, values, owners, marks, channel, base, changed } = scene;
  const g = canvas?.getContext("2d");
  if (!canvas || !g) return;
  const ratio = window.devicePixelRatio;
  const [width, height] = [Math.floor(layout.width * ratio), Math.floor(layout.height * ratio)];
  const whole = `${themeNow()} ${ratio}`;
  let known = drawn.get(canvas);
  const same = known?.whole === whole && known.layout === layout && canvas.width === width;
  if (!known || !same || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
    known = { whole, layout, cells: [] };
    drawn.set(canvas, known);
    g.setTransform(ratio, 0, 0, ratio, 0, 0);
    write(g, layout);
  }
  const now = performance.now();
  g.setTransform(ratio, 0, 0, ratio, 0, 0);
  g.textAlign = "right";
  for (let n = 1; n <= 512; n++) {
    const [x, y] = [layout.x[n] ?? Number.NaN, layout.y[n] ?? Number.NaN];
    if (Number.isNaN(x)) continue;
    const value = values?.[n - 1] ?? 0;
    const owner = owners.get(n)?.[0];
    const mark = marks.get(n) ?? "";
    const fresh = now - (changed[n - 1] ?? 0) < CHANGE_SHOWN_MS;
    const state = `${value} ${owner?.label} ${base} ${fresh} ${mark} ${n === channel}`;
    if (known.cells[n] === state) continue;
    known.cells[n] = state;
    g.clearRect(x, y, CELL.width, CELL.height);
    g.fillStyle = inkNow(owner ? "row" : "ground");
    g.fillRect(x, y, CELL.width - 1, CELL.height - 2);
    g.globalAlpha = 0.85;
    g.fillStyle = (owner && EMITTER[owner.label]) ?? inkNow("hair2");
    g.fillRect(x, y, ((CELL.width - 1) * value) / 255, CELL.height - 2);
    g.globalAlpha = 1;
    g.font = `500 11px ${mono}`;
    g.fillStyle = inkNow(value || owner ? "text" : "faint");
    g.fillText(written(value, base), x + CELL.width - 2, y + 14);
    if (mark) paintMark(g, mark, x, y);
    else if (fresh) {
      g.fillStyle = inkNow("brass");
      g.beginPath();
      g.moveTo(x, y);
      g.lineTo(x + CORNER, y);
      g.lineTo(x, y + CORNER);
      g.fill();
    }
    if (n === channel) {
      g.strokeStyle = inkNow("brass");
      g.lineWidth = 2;
      g.strokeRect(x + 1, y + 1, CELL.width - 3, CELL.height - 4);
    }
  }
}

const WORDS: Record<LevelLayout["words"][number]["kind"], [Ink, CanvasTextAlign, string]> = {
  number: ["soft", "right", `500 11.5px ${mono}`],
  fixture: ["brass", "right", `600 12px ${mono}`],
  head: ["soft", "center", `400 11px ${sans}`],
};

function write(g: CanvasRenderingContext2D, layout: LevelLayout): void {
  for (const { x, y, text, kind } of layout.words) {
    const [colour, align, font] = WORDS[kind];
    g.fillStyle = inkNow(colour);
    g.textAlign = align;
    g.font = font;
    g.fillText(text, x, y + (kind === "head" ? 11 : 14));
  }
}

/** Parked: a square; by hand: a lozenge; in a walk: a pennant. The legend beneath the map says so. */
export const MARKS: Record<string, { path: string; says: string }> = {
  parked: { path: `M0 0H${SIDE}V${SIDE}H0Z`, says: "parked" },
  manual: { path: `M${SIDE / 2} 0L${SIDE} ${SIDE / 2}L${SIDE / 2} ${SIDE}L0 ${SIDE / 2}Z`, says: "by hand" },
  raw: { path: `M${SIDE / 2} 0L${SIDE} ${SIDE / 2}L${SIDE / 2} ${SIDE}L0 ${SIDE / 2}Z`, says: "by hand" },
  highlight: { path: `M${SIDE / 2} 0L${SIDE} ${SIDE}L0 ${SIDE}Z`, says: "highlighted" },
  walk: { path: `M0 0L${SIDE} ${SIDE / 2}L0 ${SIDE}Z`, says: "by the walk" },
};

function paintMark(g: CanvasRenderingContext2D, kind: string, x: number, y: number): void {
  const path = MARKS[kind]?.path;
  if (!path) return;
  g.save();
  g.translate(x, y);
  g.fillStyle = inkNow("ground");
  g.fillRect(0, 0, SIDE + 2, SIDE + 2);
  g.fillStyle = inkNow("brass");
  g.fill(new Path2D(path));
  g.restore();
}
