import { expect, test } from "vitest";
import type { FixtureView, MatrixView } from "../api/client";
import type { Bead } from "./placements";
import { PLAIN, selectionOf, squareOf, wovenAs } from "./weaving";

test("numbers that follow each other become a range", () => {
  expect(selectionOf([103, 101, 102, 205])).toBe("101-103, 205");
  expect(selectionOf([])).toBe("");
});

test("a weave up and down from the lower left is read back from where its cells lie", () => {
  const weave = {
    ...PLAIN,
    selection: "1",
    width: 3,
    height: 4,
    corner: "bottom left",
    along: "columns",
    snake: 1,
  } as const;
  const beads: Bead[] = Array.from({ length: 12 }, (_, n) => {
    const [x, y] = squareOf(weave, n);
    return { fixture: { number: 1 } as FixtureView, cell: String(n + 1), x, y, w: 1, h: 1, position: n };
  });
  // Written down by hand: up the first column, down the second, up the third.
  expect(beads.map((bead) => [bead.x, bead.y]).slice(2, 6)).toEqual([
    [0, 1],
    [0, 0],
    [1, 0],
    [1, 1],
  ]);
  const matrix = { width: 3, height: 4 } as MatrixView;
  expect(wovenAs(matrix, beads)).toEqual(weave);
  const [a, b] = [beads[0], beads[5]];
  if (a && b) [a.x, a.y, b.x, b.y] = [b.x, b.y, a.x, a.y];
  expect(wovenAs(matrix, beads).corner).toBe("top left");
});
