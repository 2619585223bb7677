import type { FixtureView } from "../api/client";

const KNOWN = new WeakMap<FixtureView[], Map<string, number>>();

/** Where the colours of each fixture's cells begin among those of all cells, which stand in the order of the rig. */
export function firstCells(fixtures: FixtureView[]): Map<string, number> {
  let found = KNOWN.get(fixtures);
  if (!found) {
    found = new Map();
    let count = 0;
    for (const one of fixtures) {
      found.set(one.id, count);
      count += one.cells;
    }
    KNOWN.set(fixtures, found);
  }
  return found;
}
