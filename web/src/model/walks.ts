import type { FixtureView, Schemas } from "../api/client";
import type { Bead } from "./placements";

export type WalkView = Schemas["WalkView"];
export type WalkBy = WalkView["by"];
export type MarkView = Schemas["MarkView"];
export type MarkKind = MarkView["kind"];
/** A fixture's id and a cell's number, 0 for the whole of it. */
export type Atom = [string, number];

/** Ways to walk, in the words of the screen. */
export const WAYS: readonly (readonly [WalkBy, string])[] = [
  ["cell", "cells along the strand"],
  ["fixture", "fixtures"],
  ["row", "rows"],
  ["column", "columns"],
  ["universe", "universes"],
  ["address", "addresses"],
  ["emitter", "colours"],
  ["all", "all at once"],
  ["number", "numbers"],
  ["line", "a moving line"],
];

export const MARKS: readonly { kind: MarkKind; key: string }[] = [
  { kind: "good", key: "G" },
  { kind: "dark", key: "D" },
  { kind: "wrong place", key: "P" },
  { kind: "wrong colour", key: "C" },
];

/** Emitters a person can name by sight, by their attribute. */
export const SEEN: readonly (readonly [string, string])[] = [
  ["ColorAdd_R", "red"],
  ["ColorAdd_G", "green"],
  ["ColorAdd_B", "blue"],
  ["ColorAdd_W", "white"],
  ["ColorAdd_RY", "amber"],
  ["ColorAdd_UV", "UV"],
  ["ColorAdd_WW", "warm white"],
  ["ColorAdd_CW", "cool white"],
  ["ColorAdd_GY", "lime"],
];

export const emitterWord = (attribute: string): string =>
  SEEN.find(([key]) => key === attribute)?.[1] ?? (attribute.replace(/^ColorAdd_/, "") || "all emitters");

/** What a mark is of, as it is written: "405:7", or "405" for a whole fixture. */
export function writtenOf(mark: { fixture: string; cell: number }, fixtures: FixtureView[]): string {
  const fixture = fixtures.find((one) => one.id === mark.fixture);
  if (!fixture) return "gone";
  return mark.cell ? `${fixture.number}:${mark.cell}` : String(fixture.number);
}

/** Marks by kind, each with what it is of; the newest last. */
export function byKind(marks: MarkView[], fixtures: FixtureView[]): Record<MarkKind, string[]> {
  const found: Record<MarkKind, string[]> = { good: [], dark: [], "wrong place": [], "wrong colour": [] };
  const known = new Set(fixtures.map((one) => one.id));
  for (const mark of marks) if (known.has(mark.fixture)) found[mark.kind].push(writtenOf(mark, fixtures));
  return found;
}

/** Marks of one kind on cells that follow each other in a fixture, as one: "105:23-50". */
export function runsOf(marks: MarkView[]): { first: MarkView; last: number }[] {
  const runs: { first: MarkView; last: number }[] = [];
  const sorted = [...marks].sort((a, b) => a.fixture.localeCompare(b.fixture) || a.cell - b.cell);
  for (const one of sorted) {
    const run = runs.at(-1);
    const goes =
      run?.first.fixture === one.fixture && run.first.kind === one.kind && run.last + 1 === one.cell;
    if (run && goes && one.kind === "dark") run.last = one.cell;
    else runs.push({ first: one, last: one.cell });
  }
  return runs.sort((a, b) => a.first.place - b.first.place);
}

/** A few of a list: "404:3, 404:4 and 2 more". */
export function few(items: string[], most = 3): string {
  if (items.length <= most) return items.join(", ");
  return `${items.slice(0, most - 1).join(", ")} and ${items.length - most + 1} more`;
}

/** The kind of mark on each square: that of its cell, else that of its whole fixture. */
export function markOn(beads: Bead[], marks: MarkView[]): Map<string, MarkKind> {
  const kinds = new Map(marks.map((one) => [`${one.fixture}:${one.cell}`, one.kind]));
  const found = new Map<string, MarkKind>();
  for (const bead of beads) {
    const kind = kinds.get(`${bead.fixture.id}:${bead.cell}`) ?? kinds.get(`${bead.fixture.id}:0`);
    if (kind) found.set(`${bead.x},${bead.y}`, kind);
  }
  return found;
}

/** What the present step is about: one lamp, or several of which one has to be chosen. */
export function oneAtom(walk: WalkView): Atom | null {
  const first = walk.cells[0];
  if (!first) return null;
  if (walk.by === "fixture") return [first.fixture, 0];
  return walk.cells.length === 1 ? [first.fixture, first.cell] : null;
}

/** Emitters of a lamp that can be lit one after another, in the order of their channels. */
export function emittersOf(fixture: FixtureView | undefined, profiles: Schemas["ProfileView"][]): string[] {
  const profile = profiles.find((one) => one.id === fixture?.profile);
  const words = profile?.modes.find((one) => one.name === fixture?.mode)?.emitters ?? [];
  return words.flatMap((word) => SEEN.filter(([, said]) => said === word).map(([key]) => key));
}
