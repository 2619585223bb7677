/** How far back a state of the same engine can lie; one that is further back is of an engine that began anew. */
const LATE_FRAMES = 220;

/** Of an engine's state: its frame, and the commands taken ever. */
interface Told {
  frame: number;
  changes: number;
}

/** Whether a state was asked for before the one that is known: the answer to a command overtakes a status, also within
 * one frame. A press on the laser sign means what the sign says: it must not say again what was before. */
export function isOlder(state: Told, known: Told | undefined): boolean {
  if (!known || known.frame - state.frame >= LATE_FRAMES) return false;
  return state.frame < known.frame || (state.frame === known.frame && state.changes < known.changes);
}
