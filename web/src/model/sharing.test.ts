import { expect, test } from "vitest";
import type { WholeShow } from "../api/client";
import { shared } from "./sharing";

const show = (): WholeShow =>
  structuredClone({
    show: { id: "s", name: "Quay", revision: 5 },
    profiles: [{ id: "p", rev: 1, kept: false }],
    fixtures: [
      { id: "a", rev: 2, conflict: [] },
      { id: "b", rev: 3, conflict: [] },
    ],
    groups: [],
    plans: [],
    matrices: [{ id: "m", rev: 4 }],
    looks: [],
    outputs: [],
    clips: [],
    ramps: [],
    undo: "",
    redo: "",
  }) as unknown as WholeShow;

test("what did not change is the same object", () => {
  const [before, now] = [show(), show()];
  const after = shared(before, now);
  for (const name of ["profiles", "fixtures", "matrices"] as const) expect(after[name]).toBe(before[name]);
});

test("of a list only what changed is new", () => {
  const [before, now] = [show(), show()];
  Object.assign(now.fixtures[1] ?? {}, { rev: 6, name: "Bow" });
  const after = shared(before, now);
  expect(after.fixtures[0]).toBe(before.fixtures[0]);
  expect(after.fixtures[1]).toBe(now.fixtures[1]);
  expect(after.matrices).toBe(before.matrices);
});

test("a meeting with another fixture changes one whose revision is the same", () => {
  const [before, now] = [show(), show()];
  Object.assign(now.fixtures[0] ?? {}, { conflict: [7] });
  expect(shared(before, now).fixtures[0]?.conflict).toEqual([7]);
});

test("a changed profile makes all fixtures new: what they cover follows from it", () => {
  const [before, now] = [show(), show()];
  Object.assign(now.profiles[0] ?? {}, { rev: 6 });
  expect(shared(before, now).fixtures).toBe(now.fixtures);
});

test("a fixture that is gone is gone, and another show shares nothing", () => {
  const [before, now, other] = [show(), show(), show()];
  now.fixtures.pop();
  expect(shared(before, now).fixtures.map((one) => one.id)).toEqual(["a"]);
  other.show.id = "t";
  expect(shared(before, other)).toBe(other);
  expect(shared(undefined, now)).toBe(now);
});
