import { Box } from "@mui/material";
import { useRef } from "react";
import { clamp } from "../model/values";
import { ink } from "../theme/tokens";

interface RangeProps {
  label: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  /** Its value is held by hand: the track is hatched. */
  held?: boolean;
  disabled?: boolean;
  /** What stands behind the track in place of its own colours. */
  track?: string;
  /** The track is a ribbon whose colours are looked at. */
  tall?: boolean;
  onMove: (value: number) => void;
  /** Once at the end of a drag, and after each key. */
  onCommit?: (value: number) => void;
}

/** The one slider there is: the browser's own, so that keys, touch and screen readers find what they know. */
export function Range({
  label,
  value,
  min,
  max,
  step = 1,
  held,
  disabled,
  track,
  tall,
  onMove,
  onCommit,
}: RangeProps) {
  const moved = useRef(false);
  const commit = (event: { currentTarget: HTMLInputElement }) => {
    if (!moved.current) return;
    moved.current = false;
    onCommit?.(Number(event.currentTarget.value));
  };
  const part = max > min ? ((clamp(value, min, max) - min) / (max - min)) * 100 : 0;
  return (
    <Box
      component="input"
      type="range"
      aria-label={label}
      min={min}
      max={max}
      step={step}
      value={clamp(value, min, max)}
      disabled={disabled}
      onChange={(event: React.ChangeEvent<HTMLInputElement>) => {
        moved.current = true;
        onMove(Number(event.currentTarget.value));
      }}
      onPointerUp={commit}
      onKeyUp={commit}
      onBlur={commit}
      style={
        {
          "--filled": `${part}%`,
          ...(tall ? { "--rail": "14px" } : {}),
          ...(track ? { "--track": track } : held ? { "--track": HELD } : {}),
        } as React.CSSProperties
      }
      sx={SX}
    />
  );
}

/** The part up to the value, then the rail. */
const FILLED = `linear-gradient(90deg, ${ink.brass} var(--filled), ${ink.hair2} var(--filled))`;
/** The track of what is held by hand. */
const HELD = `repeating-linear-gradient(90deg, transparent 0 3px, ${ink.ground} 3px 5px), ${FILLED}`;

const RAIL = { height: "var(--rail, 6px)", borderRadius: "3px", background: `var(--track, ${FILLED})` };
const THUMB = {
  appearance: "none",
  width: "4px",
  height: "16px",
  marginTop: "calc((var(--rail, 6px) - 16px) / 2)",
  border: 0,
  borderRadius: "2px",
  background: ink.text,
};

const SX = {
  appearance: "none",
  display: "block",
  width: "100%",
  minWidth: 0,
  height: 22,
  margin: 0,
  background: "none",
  cursor: "pointer",
  touchAction: "pan-y",
  "@media (pointer: coarse)": { height: 36 },
  "&::-webkit-slider-runnable-track": RAIL,
  "&::-webkit-slider-thumb": THUMB,
  "&::-moz-range-track": RAIL,
  "&::-moz-range-thumb": { ...THUMB, marginTop: 0 },
  "&:focus-visible": { outline: "none" },
  "&:hover::-webkit-slider-thumb, &:focus-visible::-webkit-slider-thumb": {
    boxShadow: `0 0 0 3px ${ink.brassSoft}`,
  },
  "&:hover::-moz-range-thumb, &:focus-visible::-moz-range-thumb": {
    boxShadow: `0 0 0 3px ${ink.brassSoft}`,
  },
  "&:disabled": { opacity: 0.45, cursor: "default" },
};
