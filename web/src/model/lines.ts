import type { Schemas } from "../api/client";
import { type Rgb, round } from "./values";

export type EffectLine = Schemas["EffectLineView"];
export type ClipLine = Schemas["ClipLineView"];
export type RecolourLine = Schemas["RecolourLineView"];
export type FeedLine = Schemas["FeedLineView"];
export type ChaseLine = Schemas["ChaseLineView"];
export type AttributeLine = Schemas["AttributeLineView"];
export type Line = EffectLine | ClipLine | RecolourLine | FeedLine | ChaseLine | AttributeLine;
/** Lines that take parameters. */
export type WithParams = EffectLine | RecolourLine;
/** What of a line may be changed. */
export type LineChanges = Partial<
  Omit<EffectLine, "id" | "paints" | "drives" | "ribbons" | "through" | "region"> &
    Omit<ClipLine, "id" | "paints" | "drives" | "ribbons" | "through" | "region"> &
    Pick<FeedLine, "address" | "lost"> &
    Pick<ChaseLine, "chase" | "order"> &
    Pick<AttributeLine, "presets">
>;
export type Stop = Line["ramp"][number];
export type Fitting = Schemas["FittingView"];

export type Drive = Line["drives"][string];

export const WAVES: [Drive["wave"], string][] = [
  ["sine", "sine"],
  ["triangle", "triangle"],
  ["square", "square"],
  ["saw up", "saw up"],
  ["saw down", "saw down"],
  ["steps", "by chance, in steps"],
  ["drift", "by chance, drifting"],
];
export const DRIVE_ORDERS: [Drive["over"], string][] = [
  ["", "alike"],
  ["address", "by address"],
  ["row", "by row"],
  ["column", "by column"],
  ["snake", "snake"],
  ["shuffle", "shuffled"],
  ["distance", "by distance"],
];

export const BLENDS = ["over", "add", "multiply", "lighten", "darken"] as const;

/** A line as it is drawn while some of its fields are being moved. */
export const moved = (line: Line, changes: LineChanges): Line => ({ ...line, ...changes }) as Line;

/** What a line is called among others: its effect, its clip, or what it does. */
export function called(line: Line, clips: { id: string; name: string }[]): string {
  switch (line.paints) {
    case "effect":
      return line.effect;
    case "clip":
      return clips.find((one) => one.id === line.clip)?.name ?? "a clip that is gone";
    case "chase":
      return "a chase";
    case "attributes":
      return "Attributes";
    default:
      return line.paints === "recolour" ? "Recolour" : "Feed";
  }
}

/** "columns 1 to 3, rows 2 to 4", "2 parts", "all but ...": squares counted from 1, as people do. */
export function sayRegion({ squares, outside }: NonNullable<Line["region"]>): string {
  const [first] = squares;
  const says =
    squares.length > 1 || !first
      ? `${squares.length} parts`
      : `columns ${first[0] + 1} to ${first[0] + first[2]}, rows ${first[1] + 1} to ${first[1] + first[3]}`;
  return outside ? `all but ${says}` : says;
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
