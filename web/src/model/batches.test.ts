import { expect, test } from "vitest";
import type { FixtureView, WholeShow } from "../api/client";
import { changeOf, suggestion } from "./batches";

const show = {
  profiles: [
    { id: "s", name: "RGB pixel strip", modes: [{ name: "50 RGB" }, { name: "100 RGB" }] },
    { id: "b", name: "Cell bar", modes: [{ name: "10 RGBW, dimmer and strobe" }] },
  ],
  fixtures: [{ number: 301 }, { number: 318 }],
} as unknown as WholeShow;
const chosen = [{ number: 301, name: "Quay 1", profile: "s", mode: "50 RGB" }] as unknown as FixtureView[];

test("the line begins with what they have", () => {
  const says = (kind: Parameters<typeof suggestion>[0]) => suggestion(kind, show, chosen);
  expect(says("number")).toBe("301");
  expect(says("name")).toBe("Quay {n}");
  expect(says("mode")).toBe("RGB pixel strip, 50 RGB");
  expect(says("copy")).toBe("1 x, from 319, {name}");
});

test("numbers are read with their step", () => {
  expect(changeOf("number", "401", show, 3)).toEqual({ do: "number", first: 401, step: 1 });
  expect(changeOf("number", " 401 every 2nd ", show, 3)).toEqual({ do: "number", first: 401, step: 2 });
  expect(changeOf("number", "from 401", show, 3)).toBe(
    "Type the first number, such as 401, or 401 every 2nd.",
  );
});

test("a name is any pattern, but not nothing", () => {
  expect(changeOf("name", " Tower {n} ", show, 3)).toEqual({ do: "name", pattern: "Tower {n}" });
  expect(changeOf("name", " ", show, 3)).toBe("Type a name.");
});

test("copies say how many times, from where, and how they are called", () => {
  expect(changeOf("copy", "2 x, from 401, Copy {n}", show, 3)).toEqual({
    do: "copy",
    times: 2,
    first: 401,
    pattern: "Copy {n}",
    new_ids: [],
  });
  expect(changeOf("copy", "3", show, 3)).toMatchObject({ times: 3, first: null, pattern: "" });
  expect(changeOf("copy", "Copy {n}", show, 3)).toBe("Begin with how many times, such as 2 x.");
  expect(changeOf("copy", "1, from here", show, 3)).toBe("'from' needs a number, such as from 401.");
  expect(changeOf("copy", "1000 x", show, 3)).toBe("2000 copies at once are the most.");
});

test("a mode is found by its profile's name and its own, commas included", () => {
  expect(changeOf("mode", "rgb pixel strip, 100 rgb", show, 3)).toEqual({
    do: "mode",
    profile: "s",
    mode: "100 RGB",
  });
  expect(changeOf("mode", "Cell bar, 10 RGBW, dimmer and strobe", show, 3)).toMatchObject({
    mode: "10 RGBW, dimmer and strobe",
  });
  expect(changeOf("mode", "Cell bar", show, 3)).toMatchObject({ mode: "10 RGBW, dimmer and strobe" });
  expect(changeOf("mode", "Toaster, 1", show, 3)).toBe("There is no profile 'Toaster'.");
  expect(changeOf("mode", "RGB pixel strip, 60 RGB", show, 3)).toBe(
    "RGB pixel strip has no mode '60 RGB'. It has: 50 RGB; 100 RGB.",
  );
});
