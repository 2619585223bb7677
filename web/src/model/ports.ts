import type { OutputView } from "../api/client";
import type { HeardNode } from "../stores/live";

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

/** The nodes heard, each with the universes our outputs send to its ports, port by port. */
export function portsOf(nodes: HeardNode[], outputs: OutputView[]): { name: string; universes: number[] }[] {
  const found = new Map<string, { name: string; universes: number[] }>();
  for (const node of nodes) {
    if (node.style === 1) continue;
    const entry = found.get(node.ip) ?? { name: node.name || node.ip, universes: [] };
    for (const number of node.outputs)
      for (const output of outputs) {
        const offset = number - output.first_number;
        const mine = output.protocol === (node.by_sacn ? "sacn" : "artnet");
        const universe = output.first_universe + offset;
        if (output.on && mine && offset >= 0 && offset < output.count && !entry.universes.includes(universe))
          entry.universes.push(universe);
      }
    found.set(node.ip, entry);
  }
  return [...found.values()].filter((entry) => entry.universes.length);
}
