import { expect, it } from "vitest";
import type { FixtureView, MatrixView } from "../api/client";
import { addressOf, beadsOf, cellPosition, positionOf } from "./placements";

const strip = (cells: number, spans: [number, number, number][], footprint = cells * 3): FixtureView => ({
  id: "f1",
  rev: 1,
  number: 101,
  name: "Tower 1",
  profile: "p",
  mode: "m",
  footprint,
  cells,
  address: `U${spans[0]?.[0]}.${spans[0]?.[1]}`,
  end: "",
  spans,
  conflict: [],
  extra: "replace",
  response: "as is",
  emitters: [],
  lies: "",
  blocks: [
    {
      name: "b",
      lies: "first",
      apart: false,
      address: `U${spans[0]?.[0]}.${spans[0]?.[1]}`,
      spans,
      footprint,
      shared: footprint - Math.floor(footprint / cells) * cells,
      cells,
      size: Math.floor(footprint / cells),
      splits: false,
      runs: runsOf(
        spans,
        footprint - Math.floor(footprint / cells) * cells,
        cells,
        Math.floor(footprint / cells),
      ),
    },
  ],
});

/** As the server counts them: cells follow the shared channels, none is split between universes. */
function runsOf(spans: [number, number, number][], shared: number, cells: number, size: number) {
  let cell = 1;
  return spans.map(([universe, first, last], n) => {
    const position = (universe - 1) * 512 + first - 1 + (n ? 0 : shared);
    const count = Math.min(Math.floor((last - first + 1 - (n ? 0 : shared)) / size), cells - cell + 1);
    cell += count;
    return { cell: cell - count, count, position };
  });
}

it("counts positions from 0 over all universes", () => {
  // Universe 3, channel 10 is absolute channel 1034 (standards 1.4).
  expect(positionOf("U3.10")).toBe(1033);
  expect(addressOf(1033)).toBe("U3.10");
  expect(positionOf("")).toBe(Number.POSITIVE_INFINITY);
});

it("goes on in the next universe without splitting a pixel", () => {
  const long = strip(200, [
    [1, 1, 510],
    [2, 1, 90],
  ]);
  expect(addressOf(cellPosition(long, 170))).toBe("U1.508");
  expect(addressOf(cellPosition(long, 171))).toBe("U2.1");
  expect(addressOf(cellPosition(long, 200))).toBe("U2.88");
});

it("stands behind shared channels", () => {
  // A master part of 3 channels, then 12 cells of 4: part i at start + 3 + 4 (i - 1); common practice.
  const bar = strip(12, [[1, 101, 151]], 51);
  expect(addressOf(cellPosition(bar, 1))).toBe("U1.104");
  expect(addressOf(cellPosition(bar, 12))).toBe("U1.148");
});

it("looks into the block that holds the cell, wherever it lies", () => {
  const [head] = strip(7, [[10, 1, 28]], 28).blocks;
  const base = { ...strip(1, [[9, 1, 35]], 35).blocks[0], cells: 0, shared: 35 };
  const fixture = { ...strip(7, []), blocks: [base, { ...head, state: "own" }] } as FixtureView;
  expect(addressOf(cellPosition(fixture, 7))).toBe("U10.25");
  const off = {
    ...fixture,
    blocks: [base, { ...head, state: "off", address: "", spans: [], runs: [] }],
  } as FixtureView;
  expect(cellPosition(off, 1)).toBe(Number.POSITIVE_INFINITY);
});

function matrix(rows: number[][], cells: string[]): MatrixView {
  const packed = new Float32Array(rows.flat());
  const text = btoa(String.fromCharCode(...new Uint8Array(packed.buffer)));
  return {
    id: "m",
    rev: 1,
    place: 1,
    name: "M",
    width: 3,
    height: 1,
    placements: { fixtures: ["f1", "gone"], cells, packed: text },
    shares: "",
    emitter: "",
  };
}

it("orders beads along the strand and leaves out what is gone", () => {
  const fixture = strip(4, [[1, 1, 12]]);
  const rows = [
    [0, 1, 0, 0, 1, 1],
    [0, 0, 2, 0, 1, 1],
    [1, 0, 1, 0, 1, 1],
  ];
  const beads = beadsOf(matrix(rows, ["1", "3"]), [fixture]);
  expect(beads.map((bead) => [bead.cell, bead.x])).toEqual([
    ["1", 2],
    ["3", 0],
  ]);
});
