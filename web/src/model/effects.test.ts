import { expect, test } from "vitest";
import type { EffectView } from "../api/client";
import { effectsFor, unsuited } from "./effects";

const effect = (name: string, words: string[], says = "", smallest: [number, number] = [1, 1]) =>
  ({ name, words, says, smallest, moves: true, parameters: [] }) as unknown as EffectView;

const ALL = [
  effect("Flat", ["colour", "solid"], "one colour everywhere"),
  effect("Grade", ["gradient", "rainbow"], "a gradient along a line"),
  effect("Mist", ["noise", "clouds"], "smooth drifting noise", [4, 1]),
];
const names = (text: string) => effectsFor(ALL, text).map((one) => one.name);

test("an effect answers to its name, to plain words and to what it says", () => {
  expect(names("mi")).toEqual(["Mist"]);
  expect(names("rain")).toEqual(["Grade"]);
  expect(names("everywhere")).toEqual(["Flat"]);
  expect(names("")).toEqual(["Flat", "Grade", "Mist"]);
  expect(names("ticker")).toEqual([]);
});

test("the best answer stands first", () => {
  const more = [effect("Noon", [], "has a gradient too"), ...ALL];
  expect(effectsFor(more, "gradient").map((one) => one.name)).toEqual(["Grade", "Noon"]);
});

test("one that does not read well on a matrix says from which size on it does", () => {
  const [, , mist] = ALL;
  expect(mist && unsuited(mist, 3, 9)).toBe("reads well from 4 x 1 on; here are 3 x 9");
  expect(mist && unsuited(mist, 4, 1)).toBe("");
});
