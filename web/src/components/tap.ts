import { tempoOf } from "../model/tempo";
import { command } from "../stores/live";

// Common practice, no published source: the last eight taps count, a pause of 2 s begins anew, taps
// closer than 200 ms are a bounce.
const KEPT = 8;
const PAUSE_MS = 2000;
const BOUNCE_MS = 200;

let taps: number[] = [];

/** One tap: sets the beat, and from the second on the tempo. */
export function tap(now = performance.now()): void {
  const last = taps.at(-1);
  if (last !== undefined && now - last < BOUNCE_MS) return;
  taps = last !== undefined && now - last > PAUSE_MS ? [now] : [...taps, now].slice(-KEPT);
  command({ do: "tap", bpm: tempoOf(taps) });
}
