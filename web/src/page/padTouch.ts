import type { KeyboardEvent, PointerEvent } from "react";
import { lift, touch } from "../stores/page";

/** The finger that a key is. */
const KEY = 999;

const presses = (event: KeyboardEvent): boolean => event.key === " " || event.key === "Enter";

/** What makes an element the pad of an item: fingers and keys come down on it and are lifted. */
export const padTouch = (item: string, still = false) => ({
  onPointerDown: (event: PointerEvent<HTMLElement>) => {
    if (still) return;
    event.currentTarget.releasePointerCapture?.(event.pointerId);
    event.currentTarget.setPointerCapture(event.pointerId);
    touch(item, event.pointerId);
  },
  onPointerUp: (event: PointerEvent) => lift(event.pointerId),
  onPointerCancel: (event: PointerEvent) => lift(event.pointerId),
  onLostPointerCapture: (event: PointerEvent) => lift(event.pointerId),
  onKeyDown: (event: KeyboardEvent) => {
    if (still || event.repeat || !presses(event)) return;
    event.preventDefault();
    touch(item, KEY);
  },
  onKeyUp: (event: KeyboardEvent) => presses(event) && lift(KEY),
  onBlur: () => lift(KEY),
});
