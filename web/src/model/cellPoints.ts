export interface Layout {
  kind: "line" | "upright" | "grid" | "ring" | "free";
  columns: number;
  centre: boolean;
  points: readonly (readonly [number, number])[];
}

/** Where cells sit on a face of 1 x 1, x to the right, y down: the same as the program's own layout of cells. */
export function cellPoints(layout: Layout, count: number): [number, number][] {
  return Array.from({ length: count }, (_, n) => pointOf(layout, n, count));
}

function pointOf(layout: Layout, n: number, count: number): [number, number] {
  const along = (n + 0.5) / Math.max(count, 1);
  switch (layout.kind) {
    case "upright":
      return [0.5, along];
    case "grid": {
      const rows = Math.max(Math.ceil(count / layout.columns), 1);
      return [((n % layout.columns) + 0.5) / layout.columns, (Math.floor(n / layout.columns) + 0.5) / rows];
    }
    case "ring": {
      const middle = layout.centre ? 1 : 0;
      if (n < middle) return [0.5, 0.5];
      const turn = (2 * Math.PI * (n - middle)) / Math.max(count - middle, 1);
      return [0.5 + 0.42 * Math.sin(turn), 0.5 - 0.42 * Math.cos(turn)];
    }
    case "free": {
      const [x, y] = layout.points[n] ?? [along, 0.5];
      return [x, y];
    }
    default:
      return [along, 0.5];
  }
}
