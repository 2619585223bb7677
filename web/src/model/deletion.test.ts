import { expect, test } from "vitest";
import type { FixtureView, WholeShow } from "../api/client";
import { deletionOf } from "./deletion";

const lamp = (number: number): FixtureView =>
  ({ id: `f${number}`, number, cells: 2, blocks: [] as unknown }) as FixtureView;

/** Rows of fixture index, cell index, x, y, w, h as the server packs them. */
const packed = (rows: number[][]) =>
  btoa(String.fromCharCode(...new Uint8Array(new Float32Array(rows.flat()).buffer)));

test("everything that loses something by a deletion is said before it is done", () => {
  const [a, b, c] = [lamp(101), lamp(102), lamp(205)];
  const placements = {
    fixtures: ["f101", "f205"],
    cells: ["1", "2"],
    packed: packed([
      [0, 0, 0, 0, 1, 1],
      [0, 1, 1, 0, 1, 1],
      [1, 0, 2, 0, 1, 1],
    ]),
  };
  const show = {
    fixtures: [a, b, c],
    matrices: [
      { id: "m", name: "Tower", width: 3, height: 1, placements },
      { id: "n", name: "Quay", width: 1, height: 1, placements: { fixtures: [], cells: [], packed: "" } },
    ],
    groups: [{ name: "Odd", fixtures: ["f101", "f205"] }],
    plans: [{ name: "Front", items: [{ id: "f102" }, { id: "label" }] }],
  } as unknown as WholeShow;
  expect(deletionOf([a, b], show)).toEqual([
    "2 fixtures would go: 101-102, 4 cells.",
    "The matrix Tower loses 2 of 3 cells.",
    "The group Odd loses 1 of 2 fixtures.",
    "1 goes from the plan Front.",
  ]);
});
