import type { FixtureView } from "../api/client";

/** "101:5" or "101" as a fixture and its cell (1 where none is named, 0 where it has no cells); null if there is none. */
export function readCell(
  text: string,
  fixtures: FixtureView[],
): { fixture: FixtureView; cell: number } | null {
  const match = /^\s*(\d+)(?::(\d+))?\s*$/.exec(text);
  const fixture = fixtures.find((one) => one.number === Number(match?.[1]));
  if (!match || !fixture) return null;
  const cell = match[2] === undefined ? Math.min(1, fixture.cells) : Number(match[2]);
  return cell <= fixture.cells ? { fixture, cell } : null;
}

export type Base = "0-255" | "percent" | "hex";

/** A value of a channel as it is written in a base. */
export function written(value: number, base: Base): string {
  if (base === "hex") return value.toString(16).toUpperCase().padStart(2, "0");
  return String(base === "percent" ? Math.round((value / 255) * 100) : value);
}

/** Where a channel of a fixture's mode (from 1) lies, as "U7.53"; "" where its block is nowhere. */
export function channelAddress(fixture: FixtureView, channel: number): string {
  let left = channel;
  for (const block of fixture.blocks) {
    if (left > block.footprint) {
      left -= block.footprint;
      continue;
    }
    for (const [universe, first, last] of block.spans) {
      if (left <= last - first + 1) return `U${universe}.${first + left - 1}`;
      left -= last - first + 1;
    }
    return "";
  }
  return "";
}

/** What is held by hand: "<fixture>/<channel>" and "<universe>.<channel>", each with how it reads and its key. */
export function heldLines(
  manual: Record<string, number>,
  raw: Record<string, number>,
  fixtures: FixtureView[],
  parked: { universe: number; channel: number; value: number }[] = [],
): { kind: "manual" | "raw" | "parked"; key: string; address: string; says: string; value: number }[] {
  const byId = new Map(fixtures.map((one) => [one.id, one]));
  const parkedLines = parked.map((one) => ({
    kind: "parked" as const,
    key: `${one.universe}.${one.channel}`,
    address: `U${one.universe}.${one.channel}`,
    says: `U${one.universe}.${one.channel}, parked`,
    value: one.value,
  }));
  const lines = Object.entries(manual).map(([key, value]) => {
    const [id = "", channel = ""] = key.split("/");
    const fixture = byId.get(id);
    const place = fixture ? channelAddress(fixture, Number(channel)) : "";
    const says = fixture
      ? `${place ? `${place}, ` : ""}${fixture.number} ${fixture.name}, channel ${channel}`
      : "a fixture that is gone";
    return { kind: "manual" as const, key, address: place, says, value, at: fixture?.number ?? 0 };
  });
  lines.sort((a, b) => a.at - b.at || a.key.localeCompare(b.key, "en", { numeric: true }));
  const faders = Object.entries(raw).map(([key, value]) => {
    const address = `U${key.replace(/^U/, "")}`;
    return { kind: "raw" as const, key, address, says: `${address}, raw`, value };
  });
  return [...parkedLines, ...lines.map(({ at: _at, ...line }) => line), ...faders];
}
