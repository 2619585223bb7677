import { Box } from "@mui/material";
import { type ReactNode, useState } from "react";
import { round } from "../model/values";
import { Cap } from "./atoms";
import { Range } from "./Range";
import { Typed } from "./Typed";

interface ValueSliderProps {
  label: string;
  /** Whose value it is, where the label alone would not say. */
  of?: string;
  value: number;
  minimum: number;
  maximum: number;
  /** The largest value that may be typed, where the slider covers only a part. */
  limit?: number;
  unit: string;
  onMove: (value: number) => void;
  onCommit: (value: number) => void;
  /** In a narrow column: what names it and the typed value above, the slider beneath. */
  narrow?: boolean | undefined;
  /** Above a narrow one, instead of the label. */
  head?: ReactNode;
}

/** A value that is dragged, stepped and typed. While it is dragged `onMove`; once at the end `onCommit`. */
export function ValueSlider({
  label,
  of,
  value,
  minimum,
  maximum,
  limit = maximum,
  unit,
  onMove,
  onCommit,
  narrow,
  head,
}: ValueSliderProps) {
  const [moving, setMoving] = useState<number | null>(null);
  const shown = moving ?? value;
  const name = of ? `${label} of ${of}` : label;
  return (
    <Box
      sx={
        narrow
          ? {
              display: "grid",
              gridTemplateColumns: "minmax(0,1fr) 58px",
              columnGap: 1,
              alignItems: "center",
              "& > :nth-child(2)": { gridRow: 2, gridColumn: "1 / -1" },
              "& > :nth-child(3)": { gridRow: 1, gridColumn: 2 },
            }
          : { display: "grid", gridTemplateColumns: "72px 1fr 84px", gap: 1.5, alignItems: "center" }
      }
    >
      {head ?? <Cap>{label}</Cap>}
      <Range
        label={name}
        min={minimum}
        max={maximum}
        step={maximum - minimum > 50 ? 1 : 0.1}
        value={shown}
        onMove={(next) => {
          setMoving(next);
          onMove(next);
        }}
        onCommit={(next) => {
          setMoving(null);
          onCommit(next);
        }}
      />
      <Typed
        numeric
        label={`${name}, typed`}
        value={`${round(shown, 1)}${unit.startsWith("%") ? " %" : ""}`}
        onCommit={(text) => {
          const typed = Number.parseFloat(text.replace(",", "."));
          if (!(typed >= minimum && typed <= limit)) return `${label} goes from ${minimum} to ${limit}.`;
          return onCommit(typed);
        }}
      />
    </Box>
  );
}
