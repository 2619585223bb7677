import { newId } from "../../api/person";
import type { Over } from "../../model/canvases";

const base = (over: Over) => ({
  id: newId(),
  selection: "",
  ...over,
  saved_ramp: "",
  opacity: 1,
  blend: "over" as const,
  only: "" as const,
  emitter: "",
  mute: false,
  solo: false,
  stencil: false,
  shift: 0,
  ribbons: {},
});

/** A line of an effect as it begins; the server gives it the colours and the speed of its effect. */
export const effectLine = (effect: string, over: Over) => ({
  ...base(over),
  paints: "effect" as const,
  effect,
  seed: 0,
});

/** A line of a clip as it begins: filling the matrix, at its own speed. */
export const clipLine = (clip: string, over: Over) => ({
  ...base(over),
  paints: "clip" as const,
  clip,
  rounds: 0,
  ends: "hold" as const,
});

/** A line that recolours what lies beneath it. */
export const recolourLine = (over: Over) => ({ ...base(over), paints: "recolour" as const });

/** A live picture as it begins: from this machine, filling what it is painted over. */
export const feedLine = (over: Over) => ({
  ...base(over),
  paints: "feed" as const,
  address: "udp://127.0.0.1:7010",
  lost: "hold" as const,
});

/** A line that shows a chase, over what it was drawn on. */
export const chaseLine = (chase: string, over: Over) => ({
  ...base(over),
  paints: "chase" as const,
  chase,
  order: "along" as const,
  rounds: 0,
  ends: "hold" as const,
  seed: 0,
});

/** A line that sets attributes: nothing yet. */
export const attributeLine = (over: Over) => ({
  ...base(over),
  paints: "attributes" as const,
  params: {},
  presets: [],
  kept: {},
});

export type NewLine =
  | ReturnType<typeof attributeLine>
  | ReturnType<typeof chaseLine>
  | ReturnType<typeof feedLine>
  | ReturnType<typeof effectLine>
  | ReturnType<typeof clipLine>
  | ReturnType<typeof recolourLine>;
