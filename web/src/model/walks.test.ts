import { expect, test } from "vitest";
import type { FixtureView } from "../api/client";
import type { Bead } from "./placements";
import { byKind, few, type MarkView, markOn, oneAtom, runsOf, type WalkView } from "./walks";

const fixtures = [
  { id: "a", number: 103 },
  { id: "b", number: 105 },
] as FixtureView[];
const mark = (fixture: string, cell: number, kind: MarkView["kind"], place = cell): MarkView => ({
  id: `${fixture}${cell}`,
  rev: 1,
  place,
  fixture,
  cell,
  kind,
  seen: {},
});

test("marks are told by kind, those of fixtures that are gone not at all", () => {
  const found = byKind(
    [mark("a", 0, "wrong place"), mark("b", 7, "dark"), mark("gone", 1, "good")],
    fixtures,
  );
  expect(found).toEqual({ good: [], dark: ["105:7"], "wrong place": ["103"], "wrong colour": [] });
});

test("dark cells that follow each other are one run, other marks stay apart", () => {
  const marks = [
    mark("b", 23, "dark"),
    mark("b", 24, "dark"),
    mark("b", 25, "dark"),
    mark("b", 26, "wrong colour"),
  ];
  const said = (runs: ReturnType<typeof runsOf>) => runs.map(({ first, last }) => [first.cell, last]);
  expect(said(runsOf(marks))).toEqual([
    [23, 25],
    [26, 26],
  ]);
  expect(said(runsOf([mark("b", 1, "dark"), mark("b", 3, "dark")]))).toEqual([
    [1, 1],
    [3, 3],
  ]);
});

test("a mark of a whole fixture shows on all its squares, one of a cell before it", () => {
  const bead = (cell: string, x: number) => ({ fixture: fixtures[0], cell, x, y: 0 }) as unknown as Bead;
  const on = markOn([bead("1", 0), bead("2", 1)], [mark("a", 0, "good"), mark("a", 2, "dark")]);
  expect([...on]).toEqual([
    ["0,0", "good"],
    ["1,0", "dark"],
  ]);
});

test("a step is about one lamp where it lights one, or walks by fixture", () => {
  const cells = [
    { fixture: "a", cell: 1 },
    { fixture: "a", cell: 2 },
  ];
  const walk = (by: WalkView["by"], lit = cells) => ({ by, cells: lit }) as WalkView;
  expect(oneAtom(walk("fixture"))).toEqual(["a", 0]);
  expect(oneAtom(walk("row"))).toBeNull();
  expect(oneAtom(walk("cell", cells.slice(0, 1)))).toEqual(["a", 1]);
});

test("long lists are cut short in words", () => {
  expect(few(["1", "2", "3"])).toBe("1, 2, 3");
  expect(few(["1", "2", "3", "4"])).toBe("1, 2 and 2 more");
});
