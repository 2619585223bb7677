import { expect, test } from "vitest";
import { chosenBy, chosenByArrow } from "./choosing";

const rows = ["a", "b", "c", "d"].map((id) => ({ id }));
const none = { shiftKey: false, ctrlKey: false, metaKey: false };

test("a click chooses one, Shift a run in both directions, Ctrl one more or less", () => {
  expect(chosenBy(rows, ["a"], "c", none)).toEqual(["c"]);
  expect(chosenBy(rows, ["b"], "d", { ...none, shiftKey: true })).toEqual(["b", "c", "d"]);
  expect(chosenBy(rows, ["d"], "b", { ...none, shiftKey: true })).toEqual(["b", "c", "d"]);
  expect(chosenBy(rows, [], "b", { ...none, shiftKey: true })).toEqual(["b"]);
  expect(chosenBy(rows, ["a"], "c", { ...none, ctrlKey: true })).toEqual(["a", "c"]);
  expect(chosenBy(rows, ["a", "c"], "c", { ...none, metaKey: true })).toEqual(["a"]);
});

test("arrows go on to the ends and stay there", () => {
  const arrow = (key: string, shiftKey = false) => ({ key, shiftKey });
  expect(chosenByArrow(rows, ["a"], arrow("ArrowDown"))).toEqual(["b"]);
  expect(chosenByArrow(rows, ["d"], arrow("ArrowDown"))).toEqual(["d"]);
  expect(chosenByArrow(rows, [], arrow("ArrowDown"))).toEqual(["a"]);
  expect(chosenByArrow(rows, ["b"], arrow("ArrowUp", true))).toEqual(["b", "a"]);
  expect(chosenByArrow(rows, ["b"], arrow("x"))).toBeNull();
  expect(chosenByArrow([], [], arrow("ArrowDown"))).toEqual([]);
});
