import { expect, it } from "vitest";
import { isOlder } from "./newer";

it("knows the newer of two states, also of one frame", () => {
  const known = { frame: 900, changes: 7 };
  expect(isOlder({ frame: 899, changes: 7 }, known)).toBe(true);
  expect(isOlder({ frame: 900, changes: 6 }, known)).toBe(true); // a status that the answer to a command overtook
  expect(isOlder({ frame: 900, changes: 7 }, known)).toBe(false);
  expect(isOlder({ frame: 900, changes: 8 }, known)).toBe(false);
  expect(isOlder({ frame: 901, changes: 7 }, known)).toBe(false);
  expect(isOlder({ frame: 901, changes: 1 }, known)).toBe(false); // another engine went on from there
  expect(isOlder({ frame: 3, changes: 1 }, known)).toBe(false); // an engine that began anew
  expect(isOlder({ frame: 3, changes: 1 }, undefined)).toBe(false);
});
