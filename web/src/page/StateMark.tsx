import type { ItemNow } from "../stores/page";

/** What state it is in, without colour: filled, empty, sloping while it fades, round while a hand holds it. */
export function StateMark({ now, colour }: { now: ItemNow; colour: string }) {
  const fading = now.said === "coming in" || now.said === "going out";
  const path = now.held
    ? "M1 7a6 6 0 1 0 12 0 6 6 0 1 0-12 0ZM5 7a2 2 0 1 0 4 0 2 2 0 1 0-4 0Z"
    : fading
      ? now.on
        ? "M1 13 13 1V13Z"
        : "M1 1 13 13H1Z"
      : "M1 1H13V13H1Z";
  const filled = fading || now.on;
  return (
    <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true" style={{ flex: "none" }}>
      <path
        d={path}
        fill={filled ? colour : "none"}
        fillRule="evenodd"
        stroke={colour}
        strokeWidth={filled ? 0 : 1.5}
      />
    </svg>
  );
}
