import { useEffect, useState } from "react";
import { create } from "zustand";
import type { Schemas } from "../api/client";
import { personKey, personName } from "../api/person";
import { catchUp, queries } from "../api/show";
import { keepConnected, send } from "./connection";
import { leaseToken, renewLease } from "./lease";
import { notify } from "./notices";
import { levels, takeMessage } from "./pictures";

export interface RunningLook {
  look: string;
  level: number;
  since_s: number;
}

export interface EngineState {
  frame: number;
  show_s: number;
  held: boolean;
  bpm: number;
  beat: number;
  master: number;
  /** Masters of groups by their id; one that is not named is full. */
  masters: Record<string, number>;
  /** Held by hand: "<fixture id>/<channel of its mode>" and "<universe>.<channel>" to 0..255. */
  manual: Record<string, number>;
  raw: Record<string, number>;
  highlight: string[];
  blackout: boolean;
  freeze: boolean;
  armed: string[];
  /** Unix time until which lasers stay armed without any browser. */
  armed_until: number | null;
  /** Addresses that stay safe because a laser left them. */
  left: Schemas["LeftView"][];
  /** A test walk is on. */
  walking: boolean;
  running: RunningLook[];
}

export interface OutputStats {
  id: string;
  packets: number;
  errors: number;
  last_error: string;
  universes: number;
}

export interface EngineStatus {
  state: EngineState;
  stats: Record<string, number>;
  outputs: OutputStats[];
  cells: number;
  revision: number;
  failed_frames: number;
  /** Every guarded fixture, and why it cannot be armed. */
  lasers: { id: string; number: number; name: string; fault: string }[];
}

export interface HeardNode {
  ip: string;
  card: string;
  name: string;
  long_name: string;
  report: string;
  outputs: number[];
  by_sacn: boolean;
  bind_index: number;
  style: number;
  ago_s: number;
  silent: boolean;
}

/** One sender of one universe that arrives; see GET /api/streams. */
export type HeardStream = Schemas["StreamView"];
export type AnnouncedSource = Schemas["AnnouncedView"];

export interface ReceiverStatus {
  nodes: HeardNode[];
  streams: HeardStream[];
  announced: AnnouncedSource[];
  malformed: { sender: string; packets: number; last: string }[];
  malformed_total: number;
  counts: Record<string, number>;
}

export interface ClipWork {
  content: string;
  width: number;
  height: number;
  /** How it lies on the matrix, as `shapeOf` says it. */
  shape: string;
  /** How much of it is decoded, 0..1. */
  ready: number;
  fault: string;
}

export interface MediaStatus {
  clips: ClipWork[];
  /** Large clips of which a smaller copy is being made: how much of it, by content. */
  proxies: Record<string, number>;
}

interface Live {
  connected: boolean;
  /** As last heard; `engineAt` says when. Null only before the first time. */
  engine: EngineStatus | null;
  media: MediaStatus | null;
  receiver: ReceiverStatus | null;
  people: number;
  /** Local time of the engine's last word, to run the beat on from there and to say how old it is. */
  engineAt: number;
}

export const useLive = create<Live>(() => ({
  connected: false,
  engine: null,
  media: null,
  receiver: null,
  people: 1,
  engineAt: 0,
}));

const watched = {
  full: new Map<string, number>(),
  levels: new Map<number, number>(),
  look: "",
  looks: [] as string[],
  cells: 0,
};

function tellWatched(): void {
  const { look, looks } = watched;
  send({
    type: "watch",
    full: [...watched.full.keys()],
    levels: [...watched.levels.keys()],
    look,
    looks,
    cells: watched.cells > 0,
    pictures: !document.hidden,
  });
}

function counted<K>(map: Map<K, number>, key: K): () => void {
  map.set(key, (map.get(key) ?? 0) + 1);
  tellWatched();
  return () => {
    const left = (map.get(key) ?? 1) - 1;
    if (left > 0) map.set(key, left);
    else map.delete(key);
    tellWatched();
  };
}

/** Asks for every square of a matrix; returns how to stop. */
export const watchFull = (matrix: string) => counted(watched.full, matrix);
/** Asks for a universe's levels; returns how to stop. */
export const watchLevels = (universe: number) => counted(watched.levels, universe);

/** Asks for the colours of all cells; returns how to stop. */
export function watchCells(): () => void {
  watched.cells++;
  tellWatched();
  return () => {
    watched.cells--;
    tellWatched();
  };
}

/** The value of a channel as sent, a few times a second. */
export function useSent(universe: number, channel: number): number {
  const [value, setValue] = useState(0);
  useEffect(() => {
    const read = () => setValue(levels.get(universe)?.values[channel - 1] ?? 0);
    read();
    const timer = setInterval(read, 100);
    return () => clearInterval(timer);
  }, [universe, channel]);
  return value;
}

/** Asks for previews: of one look its lines and its frame, of others a miniature each. */
export function watchLooks(look: string, looks: string[]): void {
  if (look === watched.look && looks.join() === watched.looks.join()) return;
  watched.look = look;
  watched.looks = looks;
  tellWatched();
}

/** What lines are being moved to and not told yet: the latest of each. */
const moving = new Map<string, { look: string; line: string; changes: object }>();
let paused = false;

/**
 * Moves fields of lines on the next frame; nothing is stored until the edit that follows. The first move goes out at
 * once, then the latest of all once a frame of the screen: never more, and none waits behind another.
 */
export function gesture(moves: { look: string; line: string; changes: object }[]): void {
  for (const move of moves) {
    const before = moving.get(move.line)?.changes;
    moving.set(move.line, { ...move, changes: { ...before, ...move.changes } });
  }
  if (!paused) tellMoves();
}

function tellMoves(): void {
  paused = moving.size > 0;
  if (!paused) return;
  send({ type: "command", command: { do: "gesture", moves: [...moving.values()] } });
  moving.clear();
  requestAnimationFrame(tellMoves);
}

export function endGesture(look: string): void {
  for (const [line, move] of moving) if (move.look === look) moving.delete(line);
  send({ type: "command", command: { do: "end_gesture", look } });
}

/** What a command changes of the state at once, so that a second press never acts on an old state. */
function foreseen(state: EngineState, message: { do: string; [key: string]: unknown }): Partial<EngineState> {
  const look = String(message.look);
  const others = state.running.filter((run) => run.look !== look);
  switch (message.do) {
    case "blackout":
    case "freeze":
      return { [message.do]: message.on === true };
    case "master":
      return { master: Number(message.level) };
    case "manual":
    case "raw":
      return {
        [message.do]: held(state[message.do], (message.values ?? {}) as Record<string, number | null>),
      };
    case "release":
      return { manual: {}, raw: {} };
    case "highlight":
      return { highlight: message.fixtures as string[] };
    case "safe":
      return { armed: [] };
    case "group_master":
      return { masters: { ...state.masters, [String(message.group)]: Number(message.level) } };
    case "start":
      return { running: [...others, { look, level: 1, since_s: 0 }] };
    case "stop":
      return { running: others };
    case "look_level":
      return {
        running: state.running.map((run) =>
          run.look === look ? { ...run, level: Number(message.level) } : run,
        ),
      };
    case "hold_time":
    case "run_time":
      return { held: message.do === "hold_time" };
    default:
      return {};
  }
}

function held(before: Record<string, number>, values: Record<string, number | null>): Record<string, number> {
  const after = { ...before };
  for (const [key, value] of Object.entries(values))
    if (value === null) delete after[key];
    else after[key] = value;
  return after;
}

/** A status may have been asked for before a command arrived: for so long the foreseen state stands, ms. */
const FORESEEN_MS = 500;
let expected: { until: number; change: Partial<EngineState> } = { until: 0, change: {} };

/** A command to the engine, for its next frame. The engine's own state follows within half a second. */
export function command(message: { do: string; [key: string]: unknown }): void {
  const { engine } = useLive.getState();
  const change = engine ? foreseen(engine.state, message) : {};
  const kept = performance.now() < expected.until ? expected.change : {};
  expected = { until: performance.now() + FORESEEN_MS, change: { ...kept, ...change } };
  if (engine)
    useLive.setState({
      engine: { ...engine, state: { ...engine.state, ...change } },
    });
  if (!send({ type: "command", command: message })) {
    notify({
      what: "The connection is away; the command was not sent.",
      where: "",
      repair: "Try again in a moment.",
      status: 0,
    });
  }
}

/** Arms these lasers for as long as this page is there or, where a time of day ("23:40") is given, until then. */
export function arm(fixtures: string[], until: string): void {
  command({ do: "arm", fixtures, lease: leaseToken(), ...(until ? { until } : {}) });
}

/** The engine's state with what was just asked of it and may not be in it yet. */
function withExpected(state: EngineState): EngineState {
  return performance.now() < expected.until ? { ...state, ...expected.change } : state;
}

function take(text: string): void {
  const message = JSON.parse(text);
  const before = useLive.getState();
  if (message.type === "status") {
    const engine: EngineStatus | null = message.engine;
    if (engine) renewLease(engine.state.armed.length > 0);
    useLive.setState({
      engine: engine ? { ...engine, state: withExpected(engine.state) } : before.engine,
      engineAt: engine ? performance.now() : before.engineAt,
      media: message.media,
      receiver: message.receiver,
      people: message.people,
    });
  } else if (message.type === "state") {
    // The answer to a command: newer than any status.
    if (before.engine)
      useLive.setState({
        engine: { ...before.engine, state: withExpected(message.state) },
        engineAt: performance.now(),
      });
  } else if (message.type === "revision") {
    void catchUp(message.show, message.revision);
    queries.invalidateQueries({ queryKey: ["levels"] });
  } else if (message.type === "walk") {
    queries.invalidateQueries({ queryKey: ["walk"] });
  } else if (message.type === "error") {
    notify({ ...message, status: 422 });
  }
}

/** Connects, and again after every loss. Called once. */
export function connect(): void {
  document.addEventListener("visibilitychange", tellWatched);
  keepConnected({
    opened: () => {
      useLive.setState({ connected: true });
      send({ type: "hello", person: personKey, name: personName() });
      tellWatched();
      queries.invalidateQueries();
    },
    text: take,
    bytes: takeMessage,
    closed: () => useLive.setState({ connected: false, media: null, receiver: null }),
  });
}
