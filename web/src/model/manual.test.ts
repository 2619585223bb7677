import { describe, expect, it, test } from "vitest";
import type { FixtureView, ProfileView } from "../api/client";
import type { ChannelView } from "./channels";
import {
  attributesOf,
  chosenRuns,
  kelvinColour,
  levelOf,
  mix,
  type Place,
  readFan,
  readLevel,
  valuesAt,
} from "./manual";

const channel = (attribute: string, more: Partial<ChannelView> = {}): ChannelView => ({
  attribute,
  label: attribute.toLowerCase(),
  fine: -1,
  is_fine: false,
  invert: false,
  step: 1,
  emitter: "",
  physical: null,
  ranges: [],
  ...more,
});
const place = (one: ChannelView): Place => ({
  key: "f/1",
  position: 0,
  fineKey: one.fine >= 0 ? "f/2" : "",
  finePosition: one.fine,
  channel: one,
});
const range = (first: number, last: number, kind: "closed" | "dim" | "strobe" | "open") => ({
  first,
  last,
  kind,
  name: "",
  attribute: "",
  colour: "",
  picture: "",
});
const COMBINED = channel("Dimmer", {
  ranges: [range(0, 7, "closed"), range(8, 134, "dim"), range(135, 239, "strobe"), range(240, 255, "open")],
});

describe("values on the wire", () => {
  // 16 bit: coarse x 256 + fine, half is 128, 0; inverted 255 - v (check values: common practice, no source).
  it.each([
    [channel("Pan"), 0.5, { "f/1": 128 }],
    [channel("Pan", { fine: 1 }), 0.5, { "f/1": 128, "f/2": 0 }],
    [channel("Pan", { invert: true }), 0.2, { "f/1": 204 }],
    [COMBINED, 0, { "f/1": 0 }],
    [COMBINED, 0.5, { "f/1": 71 }],
    [COMBINED, 1, { "f/1": 255 }],
  ])("of %o at %f", (one, level, values) => {
    expect(valuesAt(place(one), level)).toEqual(values);
  });

  it.each([channel("Zoom"), channel("Zoom", { fine: 1 }), channel("Dimmer", { invert: true }), COMBINED])(
    "are read back",
    (one) => {
      for (const level of [0, 0.25, 0.5, 1]) {
        const values = valuesAt(place(one), level);
        const fine = one.fine >= 0 ? (values["f/2"] ?? 0) : null;
        expect(levelOf(one, values["f/1"] ?? 0, fine)).toBeCloseTo(level, 1);
      }
    },
  );
});

test("a value is typed in 0 to 255, in percent, or in degrees where they are known", () => {
  const pan = channel("Pan", { fine: 1, physical: [-270, 270] });
  expect(readLevel(pan, "128")).toBeCloseTo(128 / 255);
  expect(readLevel(pan, "50 %")).toBe(0.5);
  expect(readLevel(pan, "0°")).toBe(0.5);
  expect(readLevel(pan, "-270 °")).toBe(0);
  expect(readLevel(pan, "32768")).toBeCloseTo(0.5, 4);
  expect(readLevel(pan, "300°")).toBeNull();
  expect(readLevel(channel("Zoom"), "10°")).toBeNull();
  expect(readLevel(pan, "left")).toBeNull();
});

test("a fan runs over its members, also there and back", () => {
  const read = (text: string, count: number) => readFan(text, count, Number, mix);
  expect(read("0 > 100", 5)).toEqual([0, 25, 50, 75, 100]);
  expect(read("0 > 100 > 0", 5)).toEqual([0, 50, 100, 50, 0]);
  expect(read("40", 3)).toEqual([40, 40, 40]);
  expect(read("10 > 90", 1)).toEqual([10]);
  expect(readFan("0 > x", 3, (part) => readLevel(channel("Zoom"), part), mix)).toBeNull();
});

// sRGB of temperatures: colour-science, facts 7.3 [V], tolerance 2 there.
test.each([
  [2000, [255, 139, 22]],
  [2700, [255, 173, 89]],
  [3200, [255, 190, 122]],
  [4000, [255, 211, 165]],
  [5600, [255, 239, 228]],
  [10000, [205, 217, 255]],
])("a white of %i K", (kelvin, rgb) => {
  kelvinColour(kelvin).forEach((part, index) => {
    expect(Math.abs(part - (rgb[index] ?? 0))).toBeLessThanOrEqual(2);
  });
});

test("attributes of a selection keep its order, and a part leaves the others out", () => {
  const rgb = ["red", "green"].map((word) => channel(`ColorAdd_${word}`, { emitter: word }));
  const profile = {
    id: "p",
    modes: [
      { name: "m", blocks: [{ name: "b", shared: [channel("Dimmer")], cells: 2, each: rgb, names: [] }] },
    ],
  } as unknown as ProfileView;
  const fixture = (id: string, address: string, spans: number[][]) =>
    ({
      id,
      profile: "p",
      mode: "m",
      blocks: [{ address, spans, shared: 1, cells: 2, size: 2 }],
    }) as unknown as FixtureView;
  const two = [fixture("b", "U1.11", [[1, 11, 15]]), fixture("a", "U1.1", [[1, 1, 5]])];
  const profiles = new Map([["p", profile]]);
  const all = attributesOf(chosenRuns(two, [], profiles));
  expect(all.map((one) => [one.name, one.places.map((where) => where.key)])).toEqual([
    ["Dimmer", ["b/1", "a/1"]],
    ["ColorAdd_red", ["b/2", "b/4", "a/2", "a/4"]],
    ["ColorAdd_green", ["b/3", "b/5", "a/3", "a/5"]],
  ]);
  expect(all[1]?.places.map((where) => where.position)).toEqual([11, 13, 1, 3]);
  const shared = attributesOf(chosenRuns(two, ["b:0"], profiles));
  expect(shared.map((one) => one.name)).toEqual(["Dimmer"]);
  expect(attributesOf(chosenRuns(two, [], profiles), "green").map((one) => one.name)).toEqual([
    "ColorAdd_green",
  ]);
});

describe("one channel that does several things", () => {
  const strobe = { ...range(64, 164, "strobe"), name: "flash", attribute: "Shutter1Strobe" };
  const shutter = channel("Shutter1", { ranges: [{ ...range(0, 31, "closed") }, strobe] });
  it("offers each of them, set and read within its own values", () => {
    const place = { key: "f/1", position: 0, fineKey: "", finePosition: -1, channel: shutter };
    const part = { first: 64, last: 164 };
    expect(valuesAt({ ...place, part }, 0.5)).toEqual({ "f/1": 114 });
    expect(valuesAt({ ...place, part, channel: { ...shutter, invert: true } }, 0)).toEqual({ "f/1": 191 });
    expect(levelOf(shutter, 114, null, part)).toBe(0.5);
    expect(levelOf(shutter, 20, null, part)).toBe(0);
    expect(levelOf(shutter, 200, null, part)).toBe(0);
  });
});
