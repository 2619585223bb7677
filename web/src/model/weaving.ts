/** Fixture numbers as a typed selection: "101-118, 205". */
export function selectionOf(numbers: number[]): string {
  const sorted = [...new Set(numbers)].sort((a, b) => a - b);
  const runs: [number, number][] = [];
  for (const number of sorted) {
    const last = runs.at(-1);
    if (last && last[1] === number - 1) last[1] = number;
    else runs.push([number, number]);
  }
  return runs.map(([from, to]) => (from === to ? String(from) : `${from}-${to}`)).join(", ");
}

/** What the simple weaves do without. */
export const PLAIN = {
  snake: 0,
  gap_columns: 0,
  gap_rows: 0,
  skip: "",
  board: null,
  flip: false,
  turn: 0,
} as const;
