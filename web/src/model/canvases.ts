import type { MatrixView, WholeShow } from "../api/client";
import type { Line } from "./lines";

/** What a line is painted over: one of them. */
export type Over = { matrix: string } | { group: string } | { selection: string };

export const isOver = (over: Over): boolean => Object.values(over).every(Boolean);

export const overOf = (line: Line): Over =>
  line.selection
    ? { selection: line.selection }
    : line.group
      ? { group: line.group }
      : { matrix: line.matrix };

/** A matrix, or a group or selection that lines are painted over. */
export const canvasOf = (show: WholeShow, line: Line): MatrixView | undefined =>
  [...show.matrices, ...show.canvases].find((one) => one.id === line.canvas);

/** Each once, in the order of the lines. */
export function canvasesOf(show: WholeShow, lines: Line[]): MatrixView[] {
  const found = lines.map((line) => canvasOf(show, line)).filter((one) => one !== undefined);
  return [...new Set(found)];
}

/** All that a line can be painted over by name: matrices, then groups. */
export const offered = (show: WholeShow): [key: string, name: string, over: Over][] => [
  ...show.matrices.map((one): [string, string, Over] => [one.id, one.name, { matrix: one.id }]),
  ...show.groups.map((one): [string, string, Over] => [one.id, one.name, { group: one.id }]),
];
