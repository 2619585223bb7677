import { expect, it } from "vitest";
import { bubblePlace } from "./bubblePlace";

const view = { width: 1280, height: 800 };
const size = { width: 220, height: 40 };
const field = { left: 100, top: 200, width: 80, height: 26 };
const at = (left: number, top: number) => ({ left, top, width: 80, height: 26 });

it("stands beneath its field where nothing is there", () =>
  expect(bubblePlace(field, size, view, [])).toEqual({ left: 100, top: 230 }));
it("never lies over the next field where there is another place", () => {
  const next = { rect: at(100, 232), weight: 100 };
  expect(bubblePlace(field, size, view, [next]).top).toBe(156);
  const before = { rect: at(100, 168), weight: 1 };
  expect(bubblePlace(field, size, view, [next, before])).toEqual({ left: 184, top: 193 });
});
it("stays on the screen", () =>
  expect(bubblePlace({ ...field, left: 1190 }, size, view, []).left).toBe(1056));
