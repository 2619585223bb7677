import { expect, test } from "vitest";
import type { ProfileView } from "../api/client";
import { freeName } from "./names";
import { firstNumbers, fits, sayChannels } from "./profiles";

const profile = (name: string, kind: string, ...modes: [string, number, number, string[]][]) =>
  ({
    maker: "Tern & Daughter",
    name,
    kind,
    modes: modes.map(([mode, footprint, cells, emitters]) => ({ name: mode, footprint, cells, emitters })),
  }) as unknown as ProfileView;

const BAR = profile("Tern Bar 10", "bar", ["46", 46, 10, ["red", "green", "blue", "white"]]);
const LAMP = profile("Hue lamp", "lamp", ["4", 4, 1, []], ["2 segments", 8, 2, []]);

test("a profile is found by its name, maker, kind, mode, emitters or number of channels", () => {
  const found = (text: string) => [BAR, LAMP].filter((one) => fits(one, text)).map((one) => one.name);
  expect(found("")).toEqual(["Tern Bar 10", "Hue lamp"]);
  expect(found("daughter bar")).toEqual(["Tern Bar 10"]);
  expect(found("lamp")).toEqual(["Hue lamp"]);
  expect(found("white")).toEqual(["Tern Bar 10"]);
  expect(found("segments")).toEqual(["Hue lamp"]);
  expect(found("46")).toEqual(["Tern Bar 10"]);
  expect(found("8ch")).toEqual(["Hue lamp"]);
  expect(found("bar amber")).toEqual([]);
});

test("its channels are told as one number or a span", () => {
  expect([sayChannels(BAR), sayChannels(LAMP)]).toEqual(["46 ch", "4 to 8 ch"]);
});

test("a block's channels are numbered within the mode", () => {
  // Base 22, halo 9, a ring of 4 x 12: at 1, 23 and 32 (common practice, no published source).
  const block = (shared: number, cells: number, each: number) => ({
    shared: Array(shared),
    cell_count: cells,
    cell_channels: Array(each),
  });
  const blocks = [block(22, 0, 0), block(9, 0, 0), block(0, 12, 4), block(2, 1, 3)];
  expect(blocks.map((_, n) => firstNumbers(blocks, n).shared)).toEqual([1, 23, 32, 80]);
  expect(firstNumbers(blocks, 3).cells).toBe(82);
});

test("a name that is taken gets a number, whatever its letters", () => {
  expect(freeName("Bar", ["Lamp"])).toBe("Bar");
  expect(freeName("Bar", ["bar", "Bar 2"])).toBe("Bar 3");
});
