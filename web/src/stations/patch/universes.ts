import type { FixtureView, OutputView, WholeShow } from "../../api/client";

export interface Universe {
  number: number;
  fixtures: { fixture: FixtureView; first: number; last: number }[];
  sentBy: OutputView[];
  free: number;
}

const SHOWN = 1024;

/** Every universe that carries a fixture or is sent, in order; at most 1,024 are listed. */
export function universesOf(show: WholeShow): Universe[] {
  const found = new Map<number, Universe>();
  const at = (number: number): Universe => {
    const known = found.get(number) ?? { number, fixtures: [], sentBy: [], free: 512 };
    found.set(number, known);
    return known;
  };
  for (const fixture of show.fixtures)
    for (const [number, first, last] of fixture.spans) at(number).fixtures.push({ fixture, first, last });
  for (const output of show.outputs)
    for (let n = 0; n < Math.min(output.count, SHOWN); n++) at(output.first_universe + n).sentBy.push(output);
  for (const universe of found.values()) universe.free = free(universe);
  return [...found.values()].sort((a, b) => a.number - b.number).slice(0, SHOWN);
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
