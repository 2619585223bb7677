import { expect, test } from "vitest";
import type { OutputView } from "../api/client";
import type { HeardNode } from "../stores/live";
import { portsOf, readRuns, sayRuns } from "./ports";

test("universes are read in the order they are typed and said again", () => {
  expect(readRuns("7-9, U3")).toEqual([7, 8, 9, 3]);
  expect(sayRuns([7, 8, 9, 3])).toBe("7-9, 3");
  for (const wrong of ["x", "9-7", "0", "1-", "1-9999"]) expect(readRuns(wrong)).toBeNull();
});

test("the ports of a node are the universes our outputs send to them", () => {
  const node = { ip: "192.0.2.5", name: "Quay", outputs: [6, 7, 40], by_sacn: false, style: 0 } as HeardNode;
  const output = {
    on: true,
    protocol: "artnet",
    first_universe: 21,
    first_number: 6,
    count: 2,
  } as OutputView;
  expect(portsOf([node], [output])).toEqual([{ name: "Quay", universes: [21, 22] }]);
  expect(portsOf([node], [{ ...output, on: false }])).toEqual([]);
  expect(portsOf([{ ...node, by_sacn: true }], [output])).toEqual([]);
});
