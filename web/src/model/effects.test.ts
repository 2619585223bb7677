import { expect, test } from "vitest";
import type { EffectView } from "../api/client";
import { effectsFor } from "./effects";

const effect = (name: string, words: string[], says = "") =>
  ({ name, words, says, moves: true, parameters: [] }) as unknown as EffectView;

const ALL = [
  effect("Flat", ["colour", "solid"], "one colour everywhere"),
  effect("Grade", ["gradient", "rainbow"], "a gradient along a line"),
  effect("Mist", ["noise", "clouds"], "smooth drifting noise"),
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
