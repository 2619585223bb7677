/** Percent and 0-255, half up both ways (common practice: every whole percent survives the round trip). */
export const toPercent = (level: number): number => Math.floor(level * 100 + 0.5);
export const toByte = (level: number): number => Math.floor(level * 255 + 0.5);

export const clamp = (value: number, low: number, high: number): number =>
  Math.min(high, Math.max(low, value));

export interface Speed {
  value: number;
  /** A cycle takes so many seconds or beats; a clip may run so many times its own speed. */
  unit: "s" | "beat" | "times";
}

/** Reads "4 s", "0.5", "8 beats", "2 bars", of a clip also "150 %"; null where it is neither. */
export function readSpeed(text: string): Speed | null {
  const words = /^\s*(.*?)\s*(backward)?\s*$/i.exec(text);
  const sign = words?.[2] ? -1 : 1;
  const said = words?.[1] ?? "";
  const percent = /^(-?\d+(?:[.,]\d+)?)\s*%$/.exec(said);
  if (percent?.[1]) return { value: (sign * Number(percent[1].replace(",", "."))) / 100, unit: "times" };
  const match = /^(-?\d+(?:[.,]\d+)?)\s*(s|sec|seconds?|b|beats?|bars?)?$/i.exec(said);
  if (!match?.[1]) return null;
  const value = sign * Number(match[1].replace(",", "."));
  const unit = (match[2] ?? "s").toLowerCase();
  if (unit.startsWith("bar")) return { value: value * 4, unit: "beat" };
  return { value, unit: unit.startsWith("b") ? "beat" : "s" };
}

export function saySpeed(speed: Speed): string {
  if (speed.unit === "times") return `${round(speed.value * 100)} %`;
  if (speed.unit === "s") return `${round(speed.value)} s`;
  if (speed.value % 4 === 0) return `${speed.value / 4} ${Math.abs(speed.value) === 4 ? "bar" : "bars"}`;
  return `${round(speed.value)} ${Math.abs(speed.value) === 1 ? "beat" : "beats"}`;
}

export function round(value: number, digits = 2): number {
  return Number(value.toFixed(digits));
}

export type Rgb = [number, number, number];

/** "#ffce80", "ffce80" or "255 206 128"; null where it is neither. */
export function readColour(text: string): Rgb | null {
  const hex = /^\s*#?([0-9a-f]{6})\s*$/i.exec(text);
  if (hex?.[1]) {
    const n = Number.parseInt(hex[1], 16);
    return [n >> 16, (n >> 8) & 255, n & 255];
  }
  const parts = text.trim().split(/[\s,;]+/);
  if (parts.length !== 3) return null;
  const numbers = parts.map(Number);
  if (numbers.some((n) => !Number.isInteger(n) || n < 0 || n > 255)) return null;
  return [numbers[0] ?? 0, numbers[1] ?? 0, numbers[2] ?? 0];
}

export const css = ([r, g, b]: Rgb): string => `rgb(${r} ${g} ${b})`;

/** Hue 0-360, saturation and value 0-1. Formula: hexcone model (standards 7.1, checked with colorsys). */
export function toHsv([r, g, b]: Rgb): [number, number, number] {
  const [x, y, z] = [r / 255, g / 255, b / 255];
  const high = Math.max(x, y, z);
  const span = high - Math.min(x, y, z);
  if (span === 0) return [0, 0, high];
  const sector = high === x ? ((y - z) / span + 6) % 6 : high === y ? (z - x) / span + 2 : (x - y) / span + 4;
  return [sector * 60, span / high, high];
}

export function fromHsv(hue: number, saturation: number, value: number): Rgb {
  const part = (n: number) => {
    const k = (n + hue / 60) % 6;
    return Math.round(255 * (value - value * saturation * Math.max(0, Math.min(k, 4 - k, 1))));
  };
  return [part(5), part(3), part(1)];
}
