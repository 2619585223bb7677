import type { FixtureView, OutputView, WholeShow } from "../../api/client";
import { cellPosition } from "../../model/placements";

/** A cell of the rig (its place among all cells), and where on the ruler its channels lie. */
export interface CellOnRuler {
  index: number;
  x: number;
  width: number;
}

/** Small fixtures of one kind side by side, named once. */
export interface SmallRun {
  text: string;
  first: number;
  last: number;
  /** There is room for the name to the right of them, but not on them. */
  beside: boolean;
}

export interface Universe {
  number: number;
  /** `guarded`: it is a laser. */
  fixtures: { fixture: FixtureView; first: number; last: number; guarded: boolean }[];
  sentBy: OutputView[];
  free: number;
  cells: CellOnRuler[];
  runs: SmallRun[];
}

const SHOWN = 1024;

/** Every universe that carries a fixture or is sent, in order; at most 1,024 are listed. */
export function universesOf(show: WholeShow): Universe[] {
  const found = new Map<number, Universe>();
  const at = (number: number): Universe => {
    const known = found.get(number) ?? { number, fixtures: [], sentBy: [], free: 512, cells: [], runs: [] };
    found.set(number, known);
    return known;
  };
  const guarded = new Set(show.profiles.filter((one) => one.guarded).map((one) => one.id));
  for (const fixture of show.fixtures)
    for (const [number, first, last] of fixture.spans)
      at(number).fixtures.push({ fixture, first, last, guarded: guarded.has(fixture.profile) });
  for (const output of show.outputs)
    for (let n = 0; n < Math.min(output.count, SHOWN); n++) at(output.first_universe + n).sentBy.push(output);
  layCells(show.fixtures, found);
  for (const universe of found.values()) {
    universe.free = free(universe);
    universe.runs = runsOf(universe);
  }
  return [...found.values()].sort((a, b) => a.number - b.number).slice(0, SHOWN);
}

/** Where each cell lies on its ruler. */
function layCells(fixtures: FixtureView[], found: Map<number, Universe>): void {
  let index = 0;
  for (const fixture of fixtures) {
    let number = 0;
    for (const block of fixture.blocks)
      for (let n = 0; n < block.cells; n++) {
        const position = cellPosition(fixture, ++number);
        if (Number.isFinite(position))
          found
            .get(Math.floor(position / 512) + 1)
            ?.cells.push({ index, x: position % 512, width: block.size });
        index++;
      }
  }
}

/** Too narrow for its number. */
const NARROW = 20;
const RUN_LEAST = 3;
const LETTER_PX = 6.2;

function runsOf(universe: Universe): SmallRun[] {
  const runs: SmallRun[] = [];
  const narrow = universe.fixtures
    .filter((one) => one.last - one.first <= NARROW)
    .sort((a, b) => a.first - b.first);
  for (let at = 0; at < narrow.length; ) {
    let end = at;
    while (
      narrow[end + 1]?.first === (narrow[end]?.last ?? 0) + 1 &&
      narrow[end + 1]?.fixture.profile === narrow[at]?.fixture.profile
    )
      end++;
    const [a, b] = [narrow[at], narrow[end]];
    if (a && b && end - at + 1 >= RUN_LEAST) {
      const name = a.fixture.name.replace(/[\s\d]+$/, "");
      const numbers = `${a.fixture.number}-${b.fixture.number}`;
      const room = Math.min(
        ...universe.fixtures.filter((one) => one.first > b.last).map((one) => one.first),
        513,
      );
      const width = (text: string) => text.length * LETTER_PX + 6;
      const [on, past] = [b.last - a.first + 1, room - b.last];
      const named = `${numbers} ${name}`.trim();
      const text = [named, numbers].find((one) => width(one) <= Math.max(on, past));
      if (text) runs.push({ text, first: a.first, last: b.last, beside: width(text) > on });
    }
    at = end + 1;
  }
  return runs;
}

function free(universe: Universe): number {
  const taken = new Uint8Array(513);
  for (const { first, last } of universe.fixtures) taken.fill(1, first, last + 1);
  return 512 - taken.reduce((sum, one) => sum + one, 0);
}

/** "sACN 1", "Art-Net 0:0:6": how an output numbers a universe of ours on the wire. */
export function wireNumber(output: OutputView, universe: number): string {
  const number = output.first_number + universe - output.first_universe;
  if (output.protocol === "sacn") return `sACN ${number}`;
  return `Art-Net ${number >> 8}:${(number >> 4) & 15}:${number & 15}`;
}

/** The same number as a device calls it that counts the other way, so that an off-by-one is visible. */
export function otherCounting(output: OutputView, universe: number): string {
  const number = output.first_number + universe - output.first_universe;
  return output.protocol === "sacn"
    ? `${number - 1} if counted from 0`
    : `${number}, or ${number + 1} if from 1`;
}
