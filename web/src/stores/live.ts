import { useSyncExternalStore } from "react";
import { create } from "zustand";
import type { Schemas } from "../api/client";
import { personKey, personName } from "../api/person";
import { catchUp, queries } from "../api/show";
import { keepConnected, send } from "./connection";
import { command } from "./hands";
import { leaseToken, renewLease } from "./lease";
import { isOlder } from "./newer";
import { notify } from "./notices";
import { levels, takeMessage } from "./pictures";

/** One run of a look; there may be several of one. */
export interface RunningLook {
  run: string;
  look: string;
  by: string;
  /** Of the look, 0..1; `fade` is the run's own, and it is over when it `ends` and has faded. */
  level: number;
  fade: number;
  ends: boolean;
  since_s: number;
  /** Until its clips are at their end; null where it shows none. */
  clip_left_s: number | null;
  /** Which frame of a chase each of its lines shows, and how long yet. */
  chases: { line: string; chase: string; frame: number; left_s: number | null }[];
  /** The list that plays it, and the newest cue that has it; "" by hand. */
  of: string;
  cue: string;
  trend: "coming" | "steady" | "leaving";
  /** Every level between the look and its lamps. */
  factors: { name: string; level: number }[];
}

/** A cue list as it plays; see ipc/messages/engine. */
export interface PlayingList {
  of: string;
  cue: string;
  next: string;
  before: string;
  mix: { cue: string; weight: number }[];
  fade_left_s: number;
  fade_s: number;
  then_left_s: number | null;
  holds: boolean;
  letting: boolean;
  level: number;
  speed: number;
  went_s: number;
}

/** A score, whether it runs or not; see ipc/messages/engine. */
export interface PlayingScore {
  of: string;
  running: boolean;
  length_s: number;
  beats: number;
  beat: number;
  /** The beat it is at, as it is read: "11.3". */
  at: string;
  round: number;
  left_s: number;
  level: number;
  speed: number;
  holds: boolean;
  ends: boolean;
  sounding: { entry: string; weight: number }[];
}

export interface EngineState {
  frame: number;
  /** Commands the engine has taken ever. */
  changes: number;
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
  /** Lasers remembered at places to which nothing is sent now. */
  away: number;
  /** Addresses that stay safe because a laser left them. */
  left: Schemas["LeftView"][];
  /** A test walk is on. */
  walking: boolean;
  running: RunningLook[];
  /** A factor of all speeds. */
  pace: number;
  lists: PlayingList[];
  scores: PlayingScore[];
  /** [hue in degrees, amount 0..1] of the show, of looks and of groups by their id. */
  tint: [number, number];
  speeds: Record<string, number>;
  /** Looks that are edited unseen. */
  blind: string[];
  look_tints: Record<string, [number, number]>;
  group_tints: Record<string, [number, number]>;
  /** Lines of which some hand holds something over what is stored. */
  held_lines: string[];
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
  /** Live pictures: how many come a second, how long ago the last one (-1: none yet), what is wrong. */
  feeds: { address: string; rate: number; age_s: number; lost: boolean; size: string; fault: string }[];
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

/** What an open page of pads does with messages for it, and after the connection came back. */
export const pages: { take: (message: { page: string }) => void; tell: () => void } = {
  take: () => {},
  tell: () => {},
};

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
  return useSyncExternalStore(everyTenth, () => levels.get(universe)?.values[channel - 1] ?? 0);
}

/** Whether anybody is sent a universe that is watched. */
export const useIsSent = (universe: number): boolean =>
  useSyncExternalStore(everyTenth, () => levels.get(universe)?.sent ?? false);

const SENT_MS = 100;

/** Has a value that changes with every frame looked at ten times a second. */
export function everyTenth(look: () => void): () => void {
  const timer = setInterval(look, SENT_MS);
  return () => clearInterval(timer);
}

/** Asks for previews: of one look its lines and its frame, of others a miniature each. */
export function watchLooks(look: string, looks: string[]): void {
  if (look === watched.look && looks.join() === watched.looks.join()) return;
  watched.look = look;
  watched.looks = looks;
  tellWatched();
}

/** Arms these lasers for as long as this page is there or, where a time of day ("23:40") is given, until then. */
export function arm(fixtures: string[], until: string): void {
  command({ do: "arm", fixtures, lease: leaseToken(), ...(until ? { until } : {}) });
}

/** The answer to a command: newer than any status. */
export function takeState(state: EngineState): void {
  const { engine } = useLive.getState();
  if (engine && !isOlder(state, engine.state))
    useLive.setState({ engine: { ...engine, state }, engineAt: performance.now() });
}

function take(text: string): void {
  const message = JSON.parse(text);
  const before = useLive.getState();
  if (message.type === "status") {
    const told: EngineStatus | null = message.engine;
    const known = before.engine?.state;
    const engine = told && known && isOlder(told.state, known) ? { ...told, state: known } : told;
    if (engine) renewLease(engine.state.armed.length > 0);
    useLive.setState({
      engine: engine ?? before.engine,
      engineAt: engine ? performance.now() : before.engineAt,
      media: message.media,
      receiver: message.receiver,
      people: message.people,
    });
  } else if (message.type === "state") takeState(message.state);
  else if (message.type === "page") pages.take(message);
  else if (message.type === "revision") {
    void catchUp(message.show, message.revision);
    queries.invalidateQueries({ queryKey: ["levels"] });
  } else if (message.type === "walk") {
    queries.invalidateQueries({ queryKey: ["walk"] });
  } else if (message.type === "error" || message.type === "told") {
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
      pages.tell();
      queries.invalidateQueries();
    },
    text: take,
    bytes: takeMessage,
    closed: () => useLive.setState({ connected: false, media: null, receiver: null }),
  });
}
