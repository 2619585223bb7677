import { Box, Slider } from "@mui/material";
import { useState } from "react";
import type { ClipView } from "../../api/client";
import { Cap, Num } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import type { ClipLine } from "../../model/lines";
import { round } from "../../model/values";
import type { LineEdits } from "./useLineEdits";

interface PartProps {
  clip: ClipView;
  line: ClipLine;
  onCommit: LineEdits["commit"];
}

/** Which part of a clip plays: in and out point, dragged or typed in seconds. */
export function ClipPart({ clip, line, onCommit }: PartProps) {
  const { fitting } = line;
  const end = clip.duration_s;
  const [moving, setMoving] = useState<[number, number] | null>(null);
  const [from, to] = moving ?? [fitting.in_s, fitting.out_s || end];
  const set = (first: number, last: number) =>
    onCommit({
      fitting: { ...fitting, in_s: round(first, 3), out_s: last >= end - 0.01 ? 0 : round(last, 3) },
    });
  const typed = (text: string, low: number, high: number) => {
    const seconds = Number.parseFloat(text.replace(",", "."));
    return seconds >= low && seconds <= high ? seconds : null;
  };
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "86px 1fr 86px", gap: 1.5, alignItems: "center" }}>
      <Typed
        numeric
        label="In point, seconds"
        value={`${round(from)} s`}
        onCommit={(text) => {
          const first = typed(text, 0, to - 0.02);
          return first === null ? `The in point goes from 0 to ${round(to - 0.02)} s.` : set(first, to);
        }}
      />
      <Slider
        aria-label="Part that plays"
        getAriaLabel={(index) => (index ? "Out point" : "In point")}
        min={0}
        max={end}
        step={0.01}
        value={[from, to]}
        onChange={(_, value) => setMoving(value as [number, number])}
        onChangeCommitted={(_, value) => {
          const [first = 0, last = end] = value as number[];
          setMoving(null);
          if (last - first > 0.02) void set(first, last);
        }}
      />
      <Typed
        numeric
        label="Out point, seconds"
        value={`${round(to)} s`}
        onCommit={(text) => {
          const last = typed(text, from + 0.02, end);
          return last === null
            ? `The out point goes from ${round(from + 0.02)} to ${round(end)} s.`
            : set(from, last);
        }}
      />
      <Cap sx={{ gridColumn: "1 / -1" }}>
        <Num>{round(to - from)}</Num> s of <Num>{round(end)}</Num> s play, over and over
      </Cap>
    </Box>
  );
}
