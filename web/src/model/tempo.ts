/** Tempo of taps (ms), mean of the intervals within 20 to 300 BPM; null for fewer than two. Common practice. */
export function tempoOf(times: number[]): number | null {
  if (times.length < 2) return null;
  const span = (times.at(-1) ?? 0) - (times[0] ?? 0);
  return Math.min(300, Math.max(20, (60_000 * (times.length - 1)) / span));
}
