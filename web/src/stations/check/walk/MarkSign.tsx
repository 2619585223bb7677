import type { MarkKind } from "../../../model/walks";
import { ink } from "../../../theme/tokens";

/** Each mark has a shape of its own: a tick, an empty ring, two arrows, a half disc. */
export function MarkSign({ kind, size = 18 }: { kind: MarkKind; size?: number }) {
  const colour = kind === "good" ? ink.sea : ink.brass;
  return (
    <svg width={size} height={size} viewBox="0 0 18 18" aria-hidden="true" style={{ flex: "none" }}>
      <g fill="none" stroke={colour} strokeWidth="1.5" strokeLinecap="round" strokeLinejoin="round">
        {kind === "good" && (
          <>
            <circle cx="9" cy="9" r="7.2" />
            <path d="M5.6 9.2 8 11.6 12.4 6.6" />
          </>
        )}
        {kind === "dark" && <circle cx="9" cy="9" r="7.2" strokeDasharray="2.4 3.2" />}
        {kind === "wrong place" && (
          <path d="M2.5 6.2h12M11.6 3.4l3 2.8-3 2.8M15.5 12h-12M6.4 9.2l-3 2.8 3 2.8" />
        )}
        {kind === "wrong colour" && (
          <>
            <circle cx="9" cy="9" r="7.2" />
            <path d="M9 1.8a7.2 7.2 0 0 1 0 14.4Z" fill={colour} />
          </>
        )}
      </g>
    </svg>
  );
}
