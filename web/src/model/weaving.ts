import type { MatrixView, Schemas } from "../api/client";
import type { Bead } from "./placements";

type Weave = Schemas["WeaveBody"];
type Corner = NonNullable<Weave["corner"]>;

const CORNERS: Corner[] = ["top left", "top right", "bottom left", "bottom right"];

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

/** The square the n-th cell of a simple weave (no gaps, boards or turns) comes to lie on. */
export function squareOf(weave: Required<Weave>, index: number): [number, number] {
  const length = weave.along === "rows" ? weave.width : weave.height;
  const line = Math.floor(index / length);
  const there = index % length;
  const step = weave.snake && Math.floor(line / weave.snake) % 2 ? length - 1 - there : there;
  const [x, y] = weave.along === "rows" ? [step, line] : [line, step];
  return [
    weave.corner.endsWith("right") ? weave.width - 1 - x : x,
    weave.corner.startsWith("bottom") ? weave.height - 1 - y : y,
  ];
}

/** The weave a matrix's cells lie in now; a plain one where they lie otherwise. */
export function wovenAs(matrix: MatrixView, beads: Bead[]): Required<Weave> {
  const selection = selectionOf(beads.map((bead) => bead.fixture.number)) || "all";
  const { width, height } = matrix;
  for (const snake of [0, 1, 2])
    for (const along of ["rows", "columns"] as const)
      for (const corner of CORNERS) {
        const weave = { ...PLAIN, selection, width, height, corner, along, snake };
        const fits = beads.every((bead, index) => {
          const [x, y] = squareOf(weave, index);
          return x === bead.x && y === bead.y;
        });
        if (fits && beads.length) return weave;
      }
  return { ...PLAIN, selection, width, height, corner: "top left", along: "rows" };
}
