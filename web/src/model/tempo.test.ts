import { expect, it } from "vitest";
import { tempoOf } from "./tempo";

// Example taps and their mean: standards 8.2, computed in Python.
it("takes the mean of the intervals", () => {
  expect(tempoOf([0, 502, 998, 1503])).toBeCloseTo(119.76, 2);
  expect(tempoOf([0])).toBeNull();
});

it("stays within the limits of a tempo", () => {
  expect(tempoOf([0, 100])).toBe(300);
  expect(tempoOf([0, 9000])).toBe(20);
});
