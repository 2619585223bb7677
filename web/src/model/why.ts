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

/** What is held by hand: "<fixture>/<channel>" and "<universe>.<channel>", each with how it reads and its key. */
export function heldLines(
  manual: Record<string, number>,
  raw: Record<string, number>,
  fixtures: FixtureView[],
): { kind: "manual" | "raw"; key: string; says: string; value: number }[] {
  const byId = new Map(fixtures.map((one) => [one.id, one]));
  const lines = Object.entries(manual).map(([key, value]) => {
    const [id = "", channel = ""] = key.split("/");
    const fixture = byId.get(id);
    const says = fixture ? `${fixture.number} ${fixture.name}, channel ${channel}` : "a fixture that is gone";
    return { kind: "manual" as const, key, says, value, at: fixture?.number ?? 0 };
  });
  lines.sort((a, b) => a.at - b.at || a.key.localeCompare(b.key, "en", { numeric: true }));
  const faders = Object.entries(raw).map(([key, value]) => {
    return { kind: "raw" as const, key, says: `U${key.replace(/^U/, "")}, raw`, value };
  });
  return [...lines.map(({ at: _at, ...line }) => line), ...faders];
}
