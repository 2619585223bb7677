import type { WholeShow } from "../api/client";

export type Score = WholeShow["scores"][number];
export type Entry = Score["entries"][number];
export type Stave = Score["staves"][number];

/** Bars under one another are lines of so many. */
export const BARS_A_LINE = 8;

/** Where things lie on one line of a score: x of a beat, in pixels; heights of its parts. */
export interface Line {
  /** Its first beat, and the one behind its last. */
  first: number;
  last: number;
  left: number;
  width: number;
}

export const NAMES = 132;
export const HEAD = 24;
export const FOOT = 16;
const EDGE = 14;

/** The lines of a score on a page of some width; the last one may be short. */
export function linesOf(score: Score, width: number): Line[] {
  const beats = BARS_A_LINE * score.bar_beats;
  const room = Math.max(width - NAMES - EDGE, 100);
  return Array.from({ length: Math.ceil(score.beats / beats) }, (_, n) => {
    const first = n * beats;
    const last = Math.min(first + beats, score.beats);
    return { first, last, left: NAMES, width: (room * (last - first)) / beats };
  });
}

export const xOf = (line: Line, beat: number): number =>
  line.left + ((beat - line.first) / (line.last - line.first)) * line.width;

export const beatAt = (line: Line, x: number): number =>
  line.first + ((x - line.left) / line.width) * (line.last - line.first);

/** How many lines of so many staves stand on a page of some height, and how high a stave is then. */
export function pageOf(score: Score, lines: number, height: number): { lines: number; stave: number } {
  const staves = Math.max(score.staves.length, 1);
  const high = HEAD + staves * LEAST + FOOT;
  const all = height >= lines * high;
  const room = all ? height : height - TURN;
  const fit = all ? lines : Math.max(1, Math.floor(room / high));
  const stave = Math.min(MOST, (room / fit - HEAD - FOOT) / staves);
  return { lines: fit, stave: Math.max(stave, LEAST) };
}

/** Beneath a page where there are more: how to turn it. */
export const TURN = 34;
const LEAST = 21;
const MOST = 40;

/**
 * The outline of an entry on a line as points: tapered by its fades, cut where the line ends. `middle`: of its stave;
 * `half`: half the thickness of a full level.
 */
export function outlineOf(entry: Entry, line: Line, middle: number, half: number): string {
  const thick = Math.max(half * entry.level, 1);
  const end = entry.at + entry.length;
  const cut = (beat: number) => Math.min(Math.max(beat, line.first), line.last);
  const share = (beat: number): number => {
    const into = entry.fade_in > 0 ? (beat - entry.at) / entry.fade_in : 1;
    const out = entry.fade_out > 0 ? (end - beat) / entry.fade_out : 1;
    return Math.max(0, Math.min(into, out, 1));
  };
  const beats = [entry.at, entry.at + entry.fade_in, end - entry.fade_out, end].map(cut);
  const points = [...new Set(beats)].map((beat) => [xOf(line, beat), share(beat) * thick] as const);
  const above = points.map(([x, y]) => `${x.toFixed(1)},${(middle - y).toFixed(1)}`);
  const below = points.map(([x, y]) => `${x.toFixed(1)},${(middle + y).toFixed(1)}`).reverse();
  return [...above, ...below].join(" ");
}

/** Whether any of it lies on the line. */
export const onLine = (line: Line, at: number, length: number): boolean =>
  at < line.last && at + length > line.first;

/** A whole beat as it is typed: bar and beat, both from 1. */
export const placeAt = (beat: number, barBeats: number): string =>
  `${Math.floor(beat / barBeats) + 1}.${(beat % barBeats) + 1}`;

/** Letters that set accents, a stave each; none of them does anything else at Run. */
export const ACCENT_KEYS = ["A", "S", "D", "F", "G", "J", "K", "Q", "W", "E", "X", "C", "V", "M"] as const;
