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

/** A number as it was typed, with a comma or a point; null where it is none. What it may be, the server says. */
export function typedNumber(text: string): number | null {
  const value = Number.parseFloat(text.replace(",", "."));
  return Number.isFinite(value) ? value : null;
}

export const NO_NUMBER = "Type a number.";
