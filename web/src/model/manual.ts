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

/** How the engine is told of a place: with the part of its values that is meant. */
export const keyOf = (place: Place): string => (place.part ? `${place.key}/${place.part}` : place.key);

/** One level 0..1 for all of them: what bytes it is is worked out in the engine. */
export const levelsAt = (places: Place[], level: number): Record<string, number> =>
  Object.fromEntries(places.map((one) => [keyOf(one), clamp(level, 0, 1)]));

/** The level 0..1 that bytes on the wire stand for, by the ways of the channel; 0 where they stand for none. */
export function levelOf(channel: ChannelView, coarse: number, fine: number | null): number {
  const value = fine === null ? coarse : coarse * 256 + fine;
  const way = channel.ways.find(([first, last]) => first <= value && value <= last);
  if (!way) return 0;
  const [first, last, low, high] = way;
  return last > first ? low + ((value - first) / (last - first)) * (high - low) : high;
}

/** Physical degrees or kelvin of a level, in words; "" where the profile does not say. */
export function sayPhysical(channel: ChannelView, level: number): string {
  if (!channel.physical) return "";
  const [low, high] = channel.physical;
  const value = Math.round(low + level * (high - low));
  return /^(Pan|Tilt)/.test(channel.attribute) ? `${value}°` : `${value}`;
}
