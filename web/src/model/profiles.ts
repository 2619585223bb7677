import type { ProfileView } from "../api/client";

/** Whether a profile is what the words ask for: parts of its name, its kind, emitters, or a number of channels. */
export function fits(profile: ProfileView, text: string): boolean {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const says = `${profile.maker} ${profile.name} ${profile.kind}`.toLowerCase();
  return words.every((word) => {
    if (says.includes(word)) return true;
    const channels = /^(\d+)(?:ch)?$/.exec(word);
    return profile.modes.some((mode) =>
      channels
        ? mode.footprint === Number(channels[1]) || mode.cells === Number(channels[1])
        : mode.name.toLowerCase().includes(word) || mode.emitters.some((one) => one.toLowerCase() === word),
    );
  });
}

/** "3 to 150 channels". */
export function sayChannels(profile: ProfileView): string {
  const sizes = profile.modes.map((mode) => mode.footprint);
  const [low, high] = [Math.min(...sizes), Math.max(...sizes)];
  return low === high ? `${low} ch` : `${low} to ${high} ch`;
}

export interface Run {
  /** What stands in it: its index in the list of channels. */
  index: number;
  /** Channel of the mode, counted from 1. */
  number: number;
}

/** Numbers of a block's channels as they stand in the mode: shared ones, then those of its first cell. */
export function firstNumbers(
  blocks: { shared: unknown[]; cell_count: number; cell_channels: unknown[] }[],
  block: number,
): { shared: number; cells: number } {
  let at = 1;
  for (const one of blocks.slice(0, block))
    at += one.shared.length + one.cell_count * one.cell_channels.length;
  return { shared: at, cells: at + (blocks[block]?.shared.length ?? 0) };
}
