import { expect, test } from "vitest";
import { selectionOf } from "./weaving";

test("numbers that follow each other become a range", () => {
  expect(selectionOf([103, 101, 102, 205])).toBe("101-103, 205");
  expect(selectionOf([])).toBe("");
});
