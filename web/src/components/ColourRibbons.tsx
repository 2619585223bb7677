import { Box } from "@mui/material";
import { css, fromHsv, round } from "../model/values";
import { Cap } from "./atoms";
import { Range } from "./Range";
import { Typed } from "./Typed";

export type Part = "hue" | "saturation" | "brightness";

interface RibbonsProps {
  /** Hue 0 to 360, the other two 0 to 1. */
  hue: number;
  saturation: number;
  brightness: number;
  onMove: (part: Part, to: number) => void;
  onCommit: (part: Part, to: number) => unknown;
}

const NAMES: Record<Part, string> = { hue: "Hue", saturation: "Tint", brightness: "Light" };
const RAINBOW = `linear-gradient(90deg, ${[0, 60, 120, 180, 240, 300, 360]
  .map((hue) => css(fromHsv(hue, 1, 1)))
  .join(", ")})`;

/** The three ribbons of a colour: hue, tint, light; each dragged, stepped by the arrows, typed. */
export function ColourRibbons({ hue, saturation, brightness, onMove, onCommit }: RibbonsProps) {
  const full = css(fromHsv(hue, saturation, 1));
  const rows: [Part, number, number, string][] = [
    ["hue", hue, 360, RAINBOW],
    ["saturation", saturation, 1, `linear-gradient(90deg, rgb(255 255 255), ${css(fromHsv(hue, 1, 1))})`],
    ["brightness", brightness, 1, `linear-gradient(90deg, rgb(0 0 0), ${full})`],
  ];
  return (
    <Box sx={{ display: "grid", gap: 0.25 }}>
      {rows.map(([part, value, most, track]) => (
        <Box
          key={part}
          sx={{ display: "grid", gridTemplateColumns: "44px 1fr 62px", gap: 1, alignItems: "center" }}
        >
          <Cap>{NAMES[part].toLowerCase()}</Cap>
          <Range
            label={NAMES[part]}
            min={0}
            max={most}
            step={most / 360}
            value={value}
            track={track}
            tall
            onMove={(to) => onMove(part, to)}
            onCommit={(to) => onCommit(part, to)}
          />
          <Typed
            numeric
            label={`${NAMES[part]}, typed`}
            value={most === 1 ? `${round(value * 100, 0)} %` : `${round(value, 0)}\u00b0`}
            onCommit={(text) => {
              const typed = Number.parseFloat(text) / (most === 1 ? 100 : 1);
              if (!(typed >= 0 && typed <= most)) return most === 1 ? "0 to 100 %." : "0 to 360 degrees.";
              return onCommit(part, typed);
            }}
          />
        </Box>
      ))}
    </Box>
  );
}
