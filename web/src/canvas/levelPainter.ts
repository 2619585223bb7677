import { type Base, written } from "../model/why";
import { inkNow, mono } from "../theme/tokens";

export const ACROSS = 24;
export const CELL = { width: 26, height: 20 };
export const LEFT = 34;
export const ROWS = Math.ceil(512 / ACROSS);
const EMITTER: Record<string, string> = { red: "#a8322b", green: "#2c7a41", blue: "#2c4fb0" };

export interface MapScene {
  canvas: HTMLCanvasElement | null;
  values: Uint8Array | undefined;
  owners: Map<number, { label: string }[]>;
  channel: number;
  base: Base;
  /** When each channel changed last, on the page's clock. */
  changed: Float64Array;
}

const CHANGE_SHOWN_MS = 800;
const CORNER = 4;

/** Draws 512 values; how long the bar is says the level, its colour the emitter that owns the channel. */
export function paint({ canvas, values, owners, channel, base, changed }: MapScene): void {
  const g = canvas?.getContext("2d");
  if (!canvas || !g) return;
  const ratio = window.devicePixelRatio;
  const [width, height] = [(LEFT + ACROSS * CELL.width) * ratio, ROWS * CELL.height * ratio];
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
  }
  g.setTransform(ratio, 0, 0, ratio, 0, 0);
  g.clearRect(0, 0, width, height);
  g.textAlign = "right";
  for (let n = 1; n <= 512; n++) {
    const x = LEFT + ((n - 1) % ACROSS) * CELL.width;
    const y = Math.floor((n - 1) / ACROSS) * CELL.height;
    const value = values?.[n - 1] ?? 0;
    const owner = owners.get(n)?.[0];
    if ((n - 1) % ACROSS === 0) {
      g.font = `500 11.5px ${mono}`;
      g.fillStyle = inkNow("soft");
      g.fillText(String(n), LEFT - 8, y + 14);
    }
    g.fillStyle = inkNow(owner ? "row" : "ground");
    g.fillRect(x, y, CELL.width - 1, CELL.height - 2);
    g.globalAlpha = 0.85;
    g.fillStyle = (owner && EMITTER[owner.label]) ?? inkNow("hair2");
    g.fillRect(x, y, ((CELL.width - 1) * value) / 255, CELL.height - 2);
    g.globalAlpha = 1;
    g.font = `500 11px ${mono}`;
    g.fillStyle = inkNow(value || owner ? "text" : "faint");
    g.fillText(written(value, base), x + CELL.width - 3, y + 14);
    if (performance.now() - (changed[n - 1] ?? 0) < CHANGE_SHOWN_MS) {
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
