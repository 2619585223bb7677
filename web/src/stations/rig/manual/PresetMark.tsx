import type { Schemas } from "../../../api/client";
import { ink } from "../../../theme/tokens";

/** What kind of preset it is: its colour, a beam that points, a wheel, or a fan of a laser. */
export function PresetMark({ preset }: { preset: Schemas["PresetView"] }) {
  const line = { fill: "none", stroke: ink.sea, strokeWidth: 1.3 };
  return (
    <svg width="18" height="18" viewBox="0 0 18 18" role="img" aria-label={preset.kind}>
      {preset.kind === "colour" && (
        <rect
          x="2"
          y="2"
          width="14"
          height="14"
          rx="3"
          fill={preset.rgb ? `rgb(${preset.rgb.join(" ")})` : "none"}
          stroke={ink.hair2}
        />
      )}
      {preset.kind === "position" && (
        <>
          <path d="M9 15 14 3" {...line} />
          <circle cx="9" cy="15" r="2" fill={ink.soft} />
        </>
      )}
      {preset.kind === "beam" && (
        <>
          <circle cx="9" cy="9" r="6.5" {...line} />
          <circle cx="9" cy="9" r="2.2" {...line} />
        </>
      )}
      {preset.kind === "laser" && <path d="M9 16 3 3M9 16V2M9 16 15 3" {...line} />}
    </svg>
  );
}
