import type { FixtureView, ProfileView } from "../api/client";
import { type ChannelRun, type ChannelView, channelRuns, runPosition } from "./channels";
import { clamp } from "./values";

/** Where one attribute of one cell, or of one shared part, is on the wire. */
export interface Place {
  /** "<fixture id>/<channel of its mode>", as manual values are named. */
  key: string;
  position: number;
  /** Its fine channel; "" where it has none. */
  fineKey: string;
  finePosition: number;
  channel: ChannelView;
  /** The attribute of a part of its values, where the channel does several things. */
  part?: string;
}

/** One attribute of all that is chosen, in the order of the selection. */
export interface Attribute {
  name: string;
  word: string;
  channel: ChannelView;
  places: Place[];
}

/** Cells and shared parts that are chosen. `parts` as in the selection: empty where all is chosen whole. */
export function chosenRuns(
  fixtures: FixtureView[],
  parts: string[],
  profiles: Map<string, ProfileView>,
): { fixture: FixtureView; run: ChannelRun }[] {
  const wanted = new Set(parts);
  return fixtures.flatMap((fixture) =>
    channelRuns(fixture, profiles.get(fixture.profile))
      .filter((run) => !parts.length || wanted.has(`${fixture.id}:${run.cell}`))
      .map((run) => ({ fixture, run })),
  );
}

/** Their attributes, each with all its places that are patched; of `emitter` only, where one is named. */
export function attributesOf(runs: { fixture: FixtureView; run: ChannelRun }[], emitter = ""): Attribute[] {
  const found = new Map<string, Attribute>();
  for (const { fixture, run } of runs) {
    const start = runPosition(fixture, run);
    if (!Number.isFinite(start)) continue;
    run.channels.forEach((channel, index) => {
      if (channel.is_fine || (emitter && channel.emitter !== emitter)) return;
      const attribute = found.get(channel.attribute) ?? {
        name: channel.attribute,
        word: channel.label,
        channel,
        places: [],
      };
      const fine = channel.fine >= 0;
      const key = `${fixture.id}/${run.first + index}`;
      attribute.places.push({
        key,
        position: start + index,
        fineKey: fine ? `${fixture.id}/${run.first + channel.fine}` : "",
        finePosition: fine ? start + channel.fine : -1,
        channel,
      });
      found.set(channel.attribute, attribute);
      for (const part of channel.parts) {
        const own = { ...channel, ...part, ranges: [], parts: [], fine: -1, physical: null };
        const other = found.get(part.attribute) ?? {
          name: part.attribute,
          word: part.label,
          channel: own,
          places: [],
        };
        const place = { key, position: start + index, fineKey: "", finePosition: -1, channel: own };
        other.places.push({ ...place, part: part.attribute });
        found.set(part.attribute, other);
      }
    });
  }
  return [...found.values()];
}

/** Levels 0..1 of places, as the engine is told them: what bytes they are is worked out there. */
export function levelsAt(places: Place[], level: (index: number) => number): Record<string, number> {
  return Object.fromEntries(
    places.map((one, index) => [one.part ? `${one.key}/${one.part}` : one.key, clamp(level(index), 0, 1)]),
  );
}

/** The level 0..1 that bytes on the wire stand for, by the ways of the channel; 0 where they stand for none. */
export function levelOf(channel: ChannelView, coarse: number, fine: number | null): number {
  const value = fine === null ? coarse : coarse * 256 + fine;
  const way = channel.ways.find(([first, last]) => first <= value && value <= last);
  if (!way) return 0;
  const [first, last, low, high] = way;
  return last > first ? low + ((value - first) / (last - first)) * (high - low) : high;
}

/** Reads one value of an attribute as a level: "40 %", "102", "-30 °" where its degrees are known; null if it is none. */
export function readLevel(channel: ChannelView, text: string): number | null {
  const match = /^\s*(-?\d+(?:[.,]\d+)?)\s*(%|°|deg|degrees?|k)?\s*$/i.exec(text);
  if (!match) return null;
  const value = Number(match[1]?.replace(",", "."));
  const unit = (match[2] ?? "").toLowerCase();
  const wide = channel.fine >= 0 && value > 255 ? 65535 : 255;
  let level = value / wide;
  if (unit === "%") level = value / 100;
  else if (unit && channel.physical) {
    const [low, high] = channel.physical;
    level = (value - low) / (high - low || 1);
  } else if (unit) return null;
  return level >= 0 && level <= 1 ? level : null;
}

/** Points of a fan, "0 % > 100 % > 0 %", as a level for each of `count` members; null where it cannot be read. */
export function readFan<T>(
  text: string,
  count: number,
  read: (part: string) => T | null,
  between: (a: T, b: T, at: number) => T,
): T[] | null {
  const points = text.split(">").map(read);
  const first = points[0];
  if (first === undefined || points.some((point) => point === null)) return null;
  const good = points as T[];
  return Array.from({ length: count }, (_, index) => {
    const along = count > 1 ? (index / (count - 1)) * (good.length - 1) : 0;
    const from = Math.min(Math.floor(along), good.length - 1);
    const a = good[from] as T;
    const b = good[Math.min(from + 1, good.length - 1)] as T;
    return between(a, b, along - from);
  });
}

export const mix = (a: number, b: number, at: number): number => a + (b - a) * at;

/** Physical degrees or kelvin of a level, in words; "" where the profile does not say. */
export function sayPhysical(channel: ChannelView, level: number): string {
  if (!channel.physical) return "";
  const [low, high] = channel.physical;
  const value = Math.round(low + level * (high - low));
  return /^(Pan|Tilt)/.test(channel.attribute) ? `${value}°` : `${value}`;
}

const KELVIN_RED = 255;

/** The colour of a white of so many kelvin on screen: Kang et al. 2002 in linear sRGB, encoded (standards 7.3). */
export function kelvinColour(kelvin: number): [number, number, number] {
  const t = clamp(kelvin, 1667, 25000);
  const x =
    t <= 4000
      ? -0.2661239e9 / t ** 3 - 0.2343589e6 / t ** 2 + 0.8776956e3 / t + 0.17991
      : -3.0258469e9 / t ** 3 + 2.1070379e6 / t ** 2 + 0.2226347e3 / t + 0.24039;
  const y =
    t <= 2222
      ? -1.1063814 * x ** 3 - 1.3481102 * x ** 2 + 2.18555832 * x - 0.20219683
      : t <= 4000
        ? -0.9549476 * x ** 3 - 1.37418593 * x ** 2 + 2.09137015 * x - 0.16748867
        : 3.081758 * x ** 3 - 5.8733867 * x ** 2 + 3.75112997 * x - 0.37001483;
  const [X, Z] = [x / y, (1 - x - y) / y];
  const linear = [
    3.2406 * X - 1.5372 - 0.4986 * Z,
    -0.9689 * X + 1.8758 + 0.0415 * Z,
    0.0557 * X - 0.204 + 1.057 * Z,
  ].map((part) => Math.max(part, 0));
  const most = Math.max(...linear);
  const [red = 0, green = 0, blue = 0] = linear.map((part) => {
    const light = part / most;
    const shown = light <= 0.0031308 ? light * 12.92 : 1.055 * light ** (1 / 2.4) - 0.055;
    return Math.round(shown * KELVIN_RED);
  });
  return [red, green, blue];
}
