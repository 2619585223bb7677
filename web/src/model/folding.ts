import type { FixtureView } from "../api/client";

/** A row of the folded table: fixtures that are alike, one fixture, or of one that is open its two parts. */
export interface Entry {
  kind: "fold" | "fixture" | "shared" | "cells";
  key: string;
  /** All that it stands for, in the order of the table. */
  fixtures: FixtureView[];
  /** Its triangle points down. */
  open: boolean;
}

const stemOf = (name: string): string => name.replace(/\s*\d+$/, "");

const alike = (a: FixtureView, b: FixtureView): boolean =>
  a.profile === b.profile && a.mode === b.mode && stemOf(a.name) === stemOf(b.name);

export const foldKey = (first: FixtureView): string => `${first.id}+`;

/** Rows of the table: neighbours that are alike in one row, those whose key is in `open` with what they are made of. */
export function entriesOf(fixtures: FixtureView[], open: ReadonlySet<string>): Entry[] {
  const entries: Entry[] = [];
  let at = 0;
  while (at < fixtures.length) {
    const first = fixtures[at] as FixtureView;
    let end = at + 1;
    while (end < fixtures.length && alike(first, fixtures[end] as FixtureView)) end++;
    const run = fixtures.slice(at, end);
    const key = foldKey(first);
    const folds = run.length > 1;
    if (folds) entries.push({ kind: "fold", key, fixtures: run, open: open.has(key) });
    if (!folds || open.has(key)) for (const one of run) entries.push(...rowsOf(one, open.has(one.id)));
    at = end;
  }
  return entries;
}

function rowsOf(fixture: FixtureView, open: boolean): Entry[] {
  const own = { fixtures: [fixture], open };
  const rows: Entry[] = [{ kind: "fixture", key: fixture.id, ...own }];
  if (!open) return rows;
  if (fixture.blocks.some((block) => block.shared > 0))
    rows.push({ kind: "shared", key: `${fixture.id}:0`, ...own });
  if (fixture.cells > 0) rows.push({ kind: "cells", key: `${fixture.id}:1`, ...own });
  return rows;
}

/** "101-118", or with how many where numbers are left out. */
export function numbersOf(fixtures: FixtureView[]): string {
  const numbers = fixtures.map((one) => one.number);
  const [low, high] = [Math.min(...numbers), Math.max(...numbers)];
  return low === high ? String(low) : `${low}-${high}`;
}

/** "Tower 1-18": what the names have in common, and from which to which they count. */
export function namesOf(fixtures: FixtureView[]): string {
  const [first, last] = [fixtures[0]?.name ?? "", fixtures.at(-1)?.name ?? ""];
  const end = /\d+$/.exec(last)?.[0];
  return /\d+$/.test(first) && end ? `${first}-${end}` : `${stemOf(first)}, ${fixtures.length} of them`;
}

/** Folds that hold some of what is chosen, and not all: they open, so that it is seen which. */
export function opensFor(fixtures: FixtureView[], chosen: readonly string[]): string[] {
  const picked = new Set(chosen);
  return entriesOf(fixtures, new Set())
    .filter((one) => one.kind === "fold")
    .filter((one) => {
      const count = one.fixtures.filter((own) => picked.has(own.id)).length;
      return count > 0 && count < one.fixtures.length;
    })
    .map((one) => one.key);
}
