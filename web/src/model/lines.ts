import { type Rgb, round, type Speed } from "./values";

export type Stop = [number, number, number, number];

export const BLENDS = ["over", "add", "multiply", "lighten", "darken"] as const;
export type Blend = (typeof BLENDS)[number];

/** How a clip lies on its matrix, and which part of it plays (`out_s` 0: to its end). */
export interface Fitting {
  fit: "fill" | "fit" | "stretch";
  rotate: 0 | 90 | 180 | 270;
  mirror: "none" | "across" | "down" | "both";
  in_s: number;
  out_s: number;
}

export const AS_IT_IS: Fitting = { fit: "fill", rotate: 0, mirror: "none", in_s: 0, out_s: 0 };

/** A line as the API keeps it in a look. */
export interface Line {
  id: string;
  paints: "effect" | "clip";
  matrix: string;
  effect: string;
  clip: string;
  ramp: Stop[];
  /** The saved ramp that is used in place of `ramp`, or "". */
  saved_ramp?: string;
  speed: Speed;
  opacity: number;
  blend: Blend;
  mute: boolean;
  solo?: boolean;
  fitting?: Fitting;
  params: Record<string, number | string>;
}

/** The words for a fitting, as they stand in a line; "" for what goes without saying. */
export function sayFitting(fitting: Fitting): string {
  const turned = fitting.rotate ? `, turned ${fitting.rotate}°` : "";
  const mirrored = fitting.mirror === "none" ? "" : `, mirrored ${fitting.mirror}`;
  return `${fitting.fit}${turned}${mirrored}`;
}

/** What the decoded frames depend on; the same words as `Fitting.shape` in src/heliograph/core/matrix/fitting.py. */
export const shapeOf = (fitting: Fitting): string => `${fitting.fit}-${fitting.rotate}-${fitting.mirror}`;

/** "2 s to 8 s", "all of it". */
export function sayPart(fitting: Fitting): string {
  if (!fitting.in_s && !fitting.out_s) return "all of it";
  const from = `${round(fitting.in_s)} s`;
  return fitting.out_s ? `${from} to ${round(fitting.out_s)} s` : `from ${from} on`;
}

export const colourOf = (stop: Stop): Rgb => [stop[1], stop[2], stop[3]];

/** A ramp as a CSS gradient; one colour as a plain fill. */
export function rampCss(stops: Stop[]): string {
  const parts = stops.map(([at, r, g, b]) => `rgb(${r} ${g} ${b}) ${at * 100}%`);
  return parts.length === 1
    ? `linear-gradient(${parts[0]?.replace(/ \d+(\.\d+)?%$/, "")}, ${parts[0]?.replace(/ \d+(\.\d+)?%$/, "")})`
    : `linear-gradient(90deg, ${parts.join(", ")})`;
}

/** A new colour in the widest gap between two stops, mixed from them. */
export function withStopAdded(stops: Stop[]): Stop[] {
  if (stops.length >= 8) return stops;
  const [only] = stops;
  if (stops.length === 1 && only)
    return [
      [0, only[1], only[2], only[3]],
      [1, 255, 255, 255],
    ];
  let widest = 0;
  for (let i = 1; i < stops.length; i++) {
    const gap = (stops[i]?.[0] ?? 0) - (stops[i - 1]?.[0] ?? 0);
    const best = (stops[widest + 1]?.[0] ?? 0) - (stops[widest]?.[0] ?? 0);
    if (gap > best) widest = i - 1;
  }
  const [a, b] = [stops[widest], stops[widest + 1]];
  if (!a || !b) return stops;
  const middle = a.map((value, i) =>
    i === 0 ? (value + b[0]) / 2 : Math.round((value + (b[i] ?? 0)) / 2),
  ) as Stop;
  return [...stops.slice(0, widest + 1), middle, ...stops.slice(widest + 1)];
}

/** A look's lines, bottom first. */
export const linesOf = (look: { lines: unknown[] }): Line[] => look.lines as Line[];
