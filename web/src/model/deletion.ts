import type { FixtureView, WholeShow } from "../api/client";
import { countOn } from "./placements";
import { selectionOf } from "./weaving";

/** What goes with fixtures that are deleted, a sentence for each thing that loses them. */
export function deletionOf(gone: FixtureView[], show: WholeShow): string[] {
  const ids = new Set(gone.map((one) => one.id));
  const many = gone.length === 1 ? "fixture" : "fixtures";
  const cells = gone.reduce((sum, one) => sum + one.cells, 0);
  const said = [
    `${gone.length} ${many} would go: ${selectionOf(gone.map((one) => one.number))}, ${cells} ${cells === 1 ? "cell" : "cells"}.`,
  ];
  for (const matrix of show.matrices) {
    if (!matrix.placements.fixtures.some((id) => ids.has(id))) continue;
    const [off, all] = countOn(matrix, ids);
    if (off) said.push(`The matrix ${matrix.name} loses ${off} of ${all} cells.`);
  }
  for (const group of show.groups) {
    const members = group.fixtures.filter((id) => ids.has(id)).length;
    if (members) said.push(`The group ${group.name} loses ${members} of ${group.fixtures.length} fixtures.`);
  }
  for (const plan of show.plans) {
    const items = plan.items.filter((item) => ids.has(item.id)).length;
    if (items) said.push(`${items} ${items === 1 ? "goes" : "go"} from the plan ${plan.name}.`);
  }
  return said;
}
