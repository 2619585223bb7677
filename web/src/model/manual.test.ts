import { describe, expect, it, test } from "vitest";
import type { FixtureView, ProfileView } from "../api/client";
import type { ChannelView } from "./channels";
import { attributesOf, chosenRuns, keyOf, levelOf, type Place } from "./manual";

const channel = (attribute: string, more: Partial<ChannelView> = {}): ChannelView => ({
  attribute,
  label: attribute.toLowerCase(),
  fine: -1,
  is_fine: false,
  step: 1,
  emitter: "",
  physical: null,
  ranges: [],
  ways: [[0, 255, 0, 1]],
  parts: [],
  ...more,
});
const place = (one: ChannelView): Place => ({
  key: "f/1",
  position: 0,
  fineKey: one.fine >= 0 ? "f/2" : "",
  finePosition: one.fine,
  channel: one,
});
describe("levels", () => {
  it("are named by place, and by the part of its values that is meant", () => {
    expect(keyOf(place(channel("Pan")))).toBe("f/1");
    expect(keyOf({ ...place(channel("Shutter1")), part: "Shutter1Strobe" })).toBe("f/1/Shutter1Strobe");
  });

  it("are read by the ways the server gives", () => {
    const dimmer = channel("Dimmer", {
      ways: [
        [0, 7, 0, 0],
        [8, 134, 0, 1],
        [200, 190, 0, 1],
        [240, 255, 1, 1],
      ],
    });
    expect([0, 71, 134, 180, 250].map((byte) => levelOf(dimmer, byte, null))).toEqual([0, 0.5, 1, 0, 1]);
    const wide = channel("Pan", { fine: 1, ways: [[0, 65535, 1, 0]] });
    expect(levelOf(wide, 0, 0)).toBe(1);
    expect(levelOf(wide, 127, 255)).toBeCloseTo(0.5, 4);
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
      blocks: [
        {
          address,
          spans,
          shared: 1,
          cells: 2,
          size: 2,
          runs: [{ cell: 1, count: 2, position: spans[0]?.[1] }],
        },
      ],
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

test("a part of a channel's values that does something else is an attribute of its own", () => {
  const strobe = { attribute: "Shutter1Strobe", label: "flash", step: 0.01, ways: [] };
  const profile = {
    id: "p",
    modes: [
      {
        name: "m",
        blocks: [
          { name: "b", shared: [channel("Shutter1", { parts: [strobe] })], cells: 0, each: [], names: [] },
        ],
      },
    ],
  } as unknown as ProfileView;
  const fixture = {
    id: "f",
    profile: "p",
    mode: "m",
    blocks: [{ address: "U1.1", spans: [[1, 1, 1]], shared: 1, cells: 0, size: 0 }],
  } as unknown as FixtureView;
  const found = attributesOf(chosenRuns([fixture], [], new Map([["p", profile]])));
  expect(found.map((one) => [one.name, one.word, one.places[0]?.part])).toEqual([
    ["Shutter1", "shutter1", undefined],
    ["Shutter1Strobe", "flash", "Shutter1Strobe"],
  ]);
});
