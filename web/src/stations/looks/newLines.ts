import { newId } from "../../api/person";
import { AS_IT_IS, type Stop } from "../../model/lines";

const WARM: Stop[] = [[0, 255, 206, 128]];
const TWO: Stop[] = [
  [0, 6, 18, 46],
  [1, 255, 206, 128],
];

const base = (matrix: string) => ({
  id: newId(),
  matrix,
  effect: "",
  clip: "",
  ramp: WARM,
  saved_ramp: "",
  opacity: 1,
  blend: "over" as const,
  mute: false,
  solo: false,
  fitting: { ...AS_IT_IS },
  params: {},
});

/** A line of an effect as it begins: one warm colour, or two where one would show nothing. */
export const effectLine = (effect: string, matrix: string) => ({
  ...base(matrix),
  paints: "effect" as const,
  effect,
  ramp: effect === "Grade" || effect === "Mist" ? TWO : WARM,
  speed: { value: 4, unit: "s" as const },
});

/** A line of a clip as it begins: filling the matrix, at its own speed. */
export const clipLine = (clip: string, matrix: string) => ({
  ...base(matrix),
  paints: "clip" as const,
  clip,
  speed: { value: 1, unit: "times" as const },
});
