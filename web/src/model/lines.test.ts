import { expect, it } from "vitest";
import { type Fitting, rampCss, type Stop, sayFitting, sayPart, shapeOf, withStopAdded } from "./lines";

const AS_IT_IS: Fitting = { fit: "fill", rotate: 0, mirror: "none", in_s: 0, out_s: 0 };

it("adds a colour in the widest gap, mixed from its neighbours", () => {
  const stops: Stop[] = [
    [0, 0, 0, 0],
    [0.2, 100, 0, 0],
    [1, 200, 100, 0],
  ];
  expect(withStopAdded(stops)[2]).toEqual([0.6, 150, 50, 0]);
  expect(withStopAdded(stops)).toHaveLength(4);
});

it("makes two of one and never more than eight", () => {
  let stops: Stop[] = [[0, 10, 20, 30]];
  for (let n = 0; n < 12; n++) stops = withStopAdded(stops);
  expect(stops).toHaveLength(8);
  expect(stops.map((s) => s[0])).toEqual([...stops.map((s) => s[0])].sort((a, b) => a - b));
});

it("says a ramp as a gradient", () => {
  expect(rampCss([[0, 1, 2, 3]])).toBe("linear-gradient(rgb(1 2 3), rgb(1 2 3))");
  expect(
    rampCss([
      [0, 1, 2, 3],
      [1, 4, 5, 6],
    ]),
  ).toBe("linear-gradient(90deg, rgb(1 2 3) 0%, rgb(4 5 6) 100%)");
});

it("says a fitting in as few words as tell it", () => {
  expect(sayFitting(AS_IT_IS)).toBe("fill");
  expect(sayFitting({ ...AS_IT_IS, fit: "fit", rotate: 90, mirror: "across" })).toBe(
    "fit, turned 90°, mirrored across",
  );
});

it("says which part of a clip plays", () => {
  expect(sayPart(AS_IT_IS)).toBe("all of it");
  expect(sayPart({ ...AS_IT_IS, in_s: 2 })).toBe("from 2 s on");
  expect(sayPart({ ...AS_IT_IS, in_s: 2, out_s: 8.5 })).toBe("2 s to 8.5 s");
});

it("names what decoded frames depend on as the media process does", () => {
  expect(shapeOf(AS_IT_IS)).toBe("fill-0-none");
  expect(shapeOf({ ...AS_IT_IS, fit: "fit", rotate: 90, mirror: "across", in_s: 3 })).toBe("fit-90-across");
});
