import type { Rgb, Speed } from "./values";

export type Stop = [number, number, number, number];

/** A layer as the API keeps it in a look. */
export interface Layer {
  id: string;
  paints: "effect" | "clip";
  matrix: string;
  effect: string;
  clip: string;
  ramp: Stop[];
  speed: Speed;
  direction: "forward" | "backward";
  opacity: number;
  blend: "over" | "add";
  mute: boolean;
  params: Record<string, number | string>;
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
