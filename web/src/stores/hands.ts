import { answer, client, problemOf, type Schemas } from "../api/client";
import { NO_NUMBER, typedNumber } from "../model/values";
import { send } from "./connection";
import { notify } from "./notices";

/** What a handle is moved to, in the form its kind takes; null turns a switch over. */
export type Value = boolean | number | string | { value: number; unit: string } | number[][] | null;

type Holding = "manual" | "raw";

/** What was moved and not told yet: the latest of each. */
const moves = new Map<string, { handle: string; value: Value }>();
const holding = {
  manual: { values: {} as Record<string, number | null>, levels: {} as Record<string, number> },
  raw: { values: {} as Record<string, number | null>, levels: {} as Record<string, number> },
};
let paused = false;
/** One of hue, saturation and brightness of many cells, each keeping what is its own. */
export interface ColourMove {
  cells: { keys: [string, string, string]; by_hue: boolean }[];
  what: "hue" | "saturation" | "brightness";
  to: number;
  /** Names one movement of the hand: it starts from what was sent when it began. */
  drag: string;
}
let colours: ColourMove | null = null;

/** Heads that are turned, each by its channels of pan and tilt. */
export type HeadTurn = Omit<Schemas["TurnHeads"], "do">;
let turn: HeadTurn | null = null;

/** Turns heads from where they stood when the movement began, like `moveAll`. */
export function turnHeads(told: HeadTurn): void {
  turn = told;
  if (!paused) tellMoves();
}

/** Moves colours of many cells, like `moveAll`. */
export function moveColours(told: ColourMove): void {
  colours = told;
  if (!paused) tellMoves();
}

/**
 * Moves handles on the next frame; nothing is stored. The first move goes out at once, then the latest of all once a
 * frame of the screen: never more, and none waits behind another.
 */
export function moveAll(told: { handle: string; value: Value }[]): void {
  for (const one of told) moves.set(one.handle, one);
  if (!paused) tellMoves();
}

export const move = (handle: string, value: Value): void => moveAll([{ handle, value }]);

/** One move that counts by itself: a switch, a trigger. */
export function act(handle: string, value: Value): void {
  moves.delete(handle);
  command({ do: "move", moves: [{ handle, value }] });
}

/** Lets what this page holds move back to what is stored, once the engine plays that. */
export function letGo(handles: string[]): void {
  for (const handle of handles) moves.delete(handle);
  if (handles.length) command({ do: "let_go", handles });
}

/** Holds channels by hand, like `moveAll`; null releases one. `levels` become values in the engine. */
export function hold(
  what: Holding,
  told: { values?: Record<string, number | null>; levels?: Record<string, number> },
): void {
  const { values, levels } = holding[what];
  for (const [key, value] of Object.entries(told.values ?? {})) {
    values[key] = value;
    delete levels[key];
  }
  for (const [key, level] of Object.entries(told.levels ?? {})) {
    levels[key] = level;
    delete values[key];
  }
  if (!paused) tellMoves();
}

/** Holds what is chosen at what was typed; the sentence that says what is wrong where it is refused. */
export const typeByHand = (body: Schemas["TypeValues"] | Schemas["TypeColours"]): Promise<string> =>
  problemOf(() => answer(client.POST("/api/engine", { body })));

/** One handle to a number that was typed; the sentence that says what is wrong where it is refused. */
export const typeHandle = (handle: string, value: number): Promise<string> =>
  problemOf(() =>
    answer(client.POST("/api/engine", { body: { do: "move", moves: [{ handle, value, over_s: 0 }] } })),
  );

/** The same from the text itself; `whole` of what is typed are 1. */
export const typeText = async (handle: string, text: string, whole = 1): Promise<string> => {
  const value = typedNumber(text);
  return value === null ? NO_NUMBER : typeHandle(handle, value / whole);
};

/** Show time to a moment that was typed. */
export const typeTime = (seconds: number): Promise<string> =>
  problemOf(() => answer(client.POST("/api/engine", { body: { do: "set_time", seconds } })));

function tellMoves(): void {
  let told = moves.size > 0;
  if (told) command({ do: "move", moves: [...moves.values()] }, true);
  moves.clear();
  for (const what of ["manual", "raw"] as const) {
    const { values, levels } = holding[what];
    if (!Object.keys(values).length && !Object.keys(levels).length) continue;
    command(what === "manual" ? { do: what, values, levels } : { do: what, values }, true);
    holding[what] = { values: {}, levels: {} };
    told = true;
  }
  if (colours) {
    command({ do: "colours", ...colours }, true);
    colours = null;
    told = true;
  }
  if (turn) {
    command({ do: "turn", ...turn }, true);
    turn = null;
    told = true;
  }
  paused = told;
  if (told) requestAnimationFrame(tellMoves);
}

/** A command to the engine, for its next frame; it answers with its new state. `latest`: of a drag, whose newest value
 * stands for all of it where several wait. */
export function command(message: { do: string; [key: string]: unknown }, latest = false): void {
  if (send({ type: "command", command: message, latest })) return;
  notify({
    what: "The connection is away; the command was not sent.",
    where: "",
    repair: "Try again in a moment.",
    status: 0,
  });
}
