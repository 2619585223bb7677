import { expect, test } from "vitest";
import type { ProfileView } from "../api/client";
import { suggestionsFor } from "./addLine";

const profile = (name: string, ...modes: string[]) =>
  ({
    maker: "Generic",
    name,
    kind: name.includes("strip") ? "pixel strip" : "par",
    modes: modes.map((mode) => ({
      name: mode,
      footprint: mode.startsWith("50") ? 150 : mode.length,
      cells: 1,
      emitters: mode === "White" ? ["ColorAdd_W"] : ["ColorAdd_R"],
    })),
  }) as unknown as ProfileView;
const ALL = [
  profile("RGB lamp", "RGB"),
  profile("RGB pixel strip", "16 RGB", "50 RGB"),
  profile("White lamp", "White"),
];
const labels = (text: string) => suggestionsFor(text, ALL).items.map((one) => one.label);

test("an empty line suggests all profiles", () => {
  expect(suggestionsFor("", ALL).of).toBe("profiles");
  expect(labels("")).toEqual(["RGB lamp", "RGB pixel strip", "White lamp"]);
  expect(suggestionsFor("", ALL).items[0]?.text).toBe("1 x RGB lamp");
});

test("words narrow them down, and the count stays", () => {
  expect(labels("18 x strip")).toEqual(["RGB pixel strip"]);
  expect(suggestionsFor("18 x strip", ALL).items[0]?.text).toBe("18 x RGB pixel strip");
  expect(labels("18 lamp")).toEqual(["RGB lamp", "White lamp"]);
  expect(labels("4 x moving head")).toEqual([]);
});

test("a kind, an emitter or a number of channels finds a profile too, as in the library", () => {
  expect(labels("4 x par")).toEqual(["RGB lamp", "White lamp"]);
  expect(labels("2 x 150ch")).toEqual(["RGB pixel strip"]);
  expect(labels("ColorAdd_W")).toEqual(["White lamp"]);
});

test("a profile with several modes suggests them, where none is said yet", () => {
  const found = suggestionsFor("18 x RGB pixel strip, from 101", ALL);
  expect(found.of).toBe("modes of RGB pixel strip");
  expect(found.items[1]).toEqual({
    label: "50 RGB",
    text: "18 x RGB pixel strip, mode 50 RGB, from 101",
  });
  expect(labels("18 x RGB pixel strip, mode 16 RGB")).toEqual([]);
  expect(labels("18 x RGB lamp")).toEqual([]);
});
