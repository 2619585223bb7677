import { describe, expect, it } from "vitest";
import type { FixtureView } from "../api/client";
import { entriesOf, foldKey, namesOf, numbersOf, opensFor } from "./folding";

const bar = (number: number, name: string, mode = "46"): FixtureView =>
  ({
    id: `f${number}`,
    number,
    name,
    mode,
    profile: "bar",
    cells: 10,
    blocks: [
      { shared: 6, cells: 0 },
      { shared: 0, cells: 10 },
    ],
  }) as unknown as FixtureView;

const RIG = [
  bar(401, "Breakwater 1"),
  bar(402, "Breakwater 2"),
  bar(403, "Breakwater 3", "10"),
  bar(501, "Window"),
];
const kinds = (open: string[]) => entriesOf(RIG, new Set(open)).map((one) => `${one.kind} ${one.key}`);

describe("the folded table", () => {
  it("has neighbours that are alike in one row, another mode in its own", () =>
    expect(kinds([])).toEqual(["fold f401+", "fixture f403", "fixture f501"]));
  it("opens a fold into its fixtures and one of them into its parts", () =>
    expect(kinds([foldKey(RIG[0] as FixtureView), "f402"])).toEqual([
      "fold f401+",
      "fixture f401",
      "fixture f402",
      "shared f402:0",
      "cells f402:1",
      "fixture f403",
      "fixture f501",
    ]));
  it("says from which to which", () => {
    expect(numbersOf(RIG.slice(0, 2))).toBe("401-402");
    expect(namesOf(RIG.slice(0, 2))).toBe("Breakwater 1-2");
  });
  it("opens what is chosen in part only", () => {
    expect(opensFor(RIG, ["f401"])).toEqual(["f401+"]);
    expect(opensFor(RIG, ["f401", "f402"])).toEqual([]);
  });
});
