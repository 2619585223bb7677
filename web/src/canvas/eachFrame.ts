/**
 * One loop of animation frames for everything that draws by itself. What a frame costs, with the layout and the paint
 * it leads to, is measured, and as long again is left to hands: on a machine that is too slow pictures come more
 * rarely, and keys and pointers are answered as before.
 */
type Draw = (at: number) => void;

const draws = new Set<Draw>();
const after = new MessageChannel();
let handle = 0;
let [begun, rested] = [0, 0];

/** Pictures never stand for longer by this, whatever else the page did meanwhile. */
const LONGEST_REST_MS = 200;

after.port1.onmessage = () => {
  const now = performance.now();
  rested = now + Math.min(now - begun, LONGEST_REST_MS); // as long again as the frame took, its layout and paint with it
};

function frame(at: number): void {
  handle = requestAnimationFrame(frame);
  begun = performance.now();
  if (begun < rested) return;
  for (const draw of draws)
    try {
      draw(at);
    } catch (wrong) {
      reportError(wrong); // one that fails takes no picture from the others
    }
  after.port2.postMessage(null); // taken once the frame is painted
}

/** Calls `draw` in each animation frame there is time for, first of all at once; the answer ends that. */
export function eachFrame(draw: Draw): () => void {
  draws.add(draw);
  if (draws.size === 1) handle = requestAnimationFrame(frame);
  draw(performance.now());
  return () => {
    draws.delete(draw);
    if (!draws.size) cancelAnimationFrame(handle);
  };
}

/** Whether everything a drawing is made of is as it was when it was drawn last. */
export const same = (now: readonly unknown[], before: readonly unknown[]): boolean =>
  now.length === before.length && now.every((one, n) => one === before[n]);

/** Says it where that is not what stands there: words written anew are laid out anew. */
export function say(element: Element | null, text: string): void {
  if (element && element.textContent !== text) element.textContent = text;
}
