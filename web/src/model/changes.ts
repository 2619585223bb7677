import type { Schemas, WholeShow } from "../api/client";

type Part = Schemas["PartChanges"];
type Kept = { id?: string; universe?: number; channel?: number };

/** What names an object among those of its part, as the server names it. */
const idOf = (one: Kept): string => one.id ?? `${one.universe}.${one.channel}`;

/** The show with what changed put into it; all else stays the same object and is not drawn again. */
export function changed(known: WholeShow, changes: Schemas["ShowChanges"]): WholeShow {
  if (changes.whole) return changes.whole as WholeShow;
  const { show, version, undo, redo } = changes;
  const result: Record<string, unknown> = { ...known, show, version, undo, redo };
  for (const [name, part] of Object.entries(changes.parts))
    result[name] = merged(result[name] as Kept[], part);
  return result as WholeShow;
}

function merged(before: Kept[], { put, gone, order }: Part): Kept[] {
  const out = new Set([...gone, ...put.map((one) => idOf(one.now as Kept))]);
  const after = before.filter((one) => !out.has(idOf(one)));
  if (order) {
    const all = new Map([...after, ...put.map((one) => one.now as Kept)].map((one) => [idOf(one), one]));
    return order.map((id) => all.get(id) as Kept);
  }
  for (const { place, now } of put) after.splice(place, 0, now as Kept);
  return after;
}
