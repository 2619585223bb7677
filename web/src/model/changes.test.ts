import { expect, test } from "vitest";
import type { Schemas, WholeShow } from "../api/client";
import { changed } from "./changes";

const at = (place: number, now: object) => ({ place, now });
const lamp = (id: string, name = id) => ({ id, name });
const known = {
  show: { id: "s", name: "Pier", revision: 4 },
  version: "b-4",
  undo: "",
  redo: "",
  fixtures: ["a", "b", "c", "d"].map((id) => lamp(id)),
  looks: [lamp("l")],
  parked: [{ universe: 1, channel: 2, value: 3 }],
} as unknown as WholeShow;

const told = (parts: object): Schemas["ShowChanges"] => ({
  whole: null,
  parts: parts as Schemas["ShowChanges"]["parts"],
  show: { id: "s", name: "Pier", revision: 5 },
  version: "b-5",
  undo: "Renamed",
  redo: "",
});
const names = (show: WholeShow) => show.fixtures.map((one) => one.name);

test("what changed is put in its place and all else stays the same object", () => {
  const now = changed(
    known,
    told({ fixtures: { put: [at(1, lamp("b", "Beacon"))], gone: [], order: null } }),
  );
  expect(names(now)).toEqual(["a", "Beacon", "c", "d"]);
  expect(now.fixtures[0]).toBe(known.fixtures[0]);
  expect(now.looks).toBe(known.looks);
  expect([now.version, now.show.revision, now.undo]).toEqual(["b-5", 5, "Renamed"]);
});

test("what is new, gone and moved ends in the server's order", () => {
  const put = [at(0, lamp("e")), at(2, lamp("c", "Quay"))];
  expect(names(changed(known, told({ fixtures: { put, gone: ["b"], order: null } })))).toEqual([
    "e",
    "a",
    "Quay",
    "d",
  ]);
  const order = ["d", "e", "a"];
  const moved = { put: [at(1, lamp("e"))], gone: ["b", "c"], order };
  expect(names(changed(known, told({ fixtures: moved })))).toEqual(order);
});

test("a parked channel is known by its address", () => {
  const put = [at(0, { universe: 1, channel: 1, value: 9 }), at(1, { universe: 1, channel: 2, value: 8 })];
  const now = changed(known, told({ parked: { put, gone: [], order: null } }));
  expect(now.parked.map((one) => one.value)).toEqual([9, 8]);
});

test("all of it where the server says so", () => {
  const whole = { ...known, version: "c-1" };
  expect(changed(known, { ...told({}), whole } as Schemas["ShowChanges"])).toBe(whole);
});
