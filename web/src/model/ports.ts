/** "7-9, 3" as universes in the order typed; null where it cannot be read. */
export function readRuns(text: string): number[] | null {
  const found: number[] = [];
  for (const part of text.split(",").map((one) => one.trim())) {
    if (!part) continue;
    const match = /^U?(\d{1,5})(?:\s*-\s*U?(\d{1,5}))?$/i.exec(part);
    if (!match) return null;
    const [first, last] = [Number(match[1]), Number(match[2] ?? match[1])];
    if (first < 1 || last < first || last - first >= 2048) return null;
    for (let n = first; n <= last; n++) found.push(n);
  }
  return found;
}

/** Universes in their order, neighbours joined: "7-9, 3". */
export function sayRuns(universes: number[]): string {
  const runs: [number, number][] = [];
  for (const universe of universes) {
    const last = runs.at(-1);
    if (last && last[1] === universe - 1) last[1] = universe;
    else runs.push([universe, universe]);
  }
  return runs.map(([from, to]) => (from === to ? String(from) : `${from}-${to}`)).join(", ");
}
