export interface Modified {
  shiftKey: boolean;
  ctrlKey: boolean;
  metaKey: boolean;
}

/** What is chosen of rows after a click on one: alone, with Shift all from the last, with Ctrl one more or less. */
export function chosenBy(
  rows: readonly { id: string }[],
  before: string[],
  id: string,
  event: Modified,
): string[] {
  const at = rows.findIndex((one) => one.id === id);
  const last = rows.findIndex((one) => one.id === before.at(-1));
  if (event.shiftKey && last >= 0)
    return rows.slice(Math.min(at, last), Math.max(at, last) + 1).map((one) => one.id);
  if (event.ctrlKey || event.metaKey)
    return before.includes(id) ? before.filter((one) => one !== id) : [...before, id];
  return [id];
}

/** What is chosen after an arrow: the next row up or down, with Shift beside those before; null for any other key. */
export function chosenByArrow(
  rows: readonly { id: string }[],
  before: string[],
  event: { key: string; shiftKey: boolean },
): string[] | null {
  const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
  if (!step) return null;
  const at = rows.findIndex((one) => one.id === before.at(-1));
  const next = rows[Math.min(rows.length - 1, Math.max(0, at + step))];
  if (!next) return before;
  return event.shiftKey ? [...new Set([...before, next.id])] : [next.id];
}
