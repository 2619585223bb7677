import { Box, Button } from "@mui/material";
import { KeyCap } from "../../components/atoms";
import type { Line } from "../../model/lines";
import { ink } from "../../theme/tokens";
import type { LineEdits } from "./useLineEdits";

interface ActionsProps {
  edits: LineEdits;
  line: Line;
  place: number;
  of: number;
}

/** What can be done to the chosen line, with its keys. */
export function LineActions({ edits, line, place, of }: ActionsProps) {
  const item = (
    name: string,
    key: string,
    run: () => unknown,
    more: { pressed?: boolean; disabled?: boolean; label?: string } = {},
  ) => (
    <Button
      variant="text"
      aria-label={more.label ?? `${name} line ${place}`}
      aria-pressed={more.pressed}
      disabled={more.disabled ?? false}
      onClick={run}
      sx={{ color: more.pressed ? ink.brass : ink.soft, px: 0.75 }}
    >
      {name} <KeyCap>{key}</KeyCap>
    </Button>
  );
  return (
    <Box sx={{ display: "flex", gap: 0.25, mt: 0.5, ml: "104px", flexWrap: "wrap" }}>
      {item(line.mute ? "Muted" : "Mute", "M", () => edits.commit({ mute: !line.mute }), {
        pressed: line.mute,
      })}
      {item("Solo", "S", () => edits.commit({ solo: !line.solo }), { pressed: line.solo ?? false })}
      {item("Duplicate", "D", edits.duplicate)}
      {item("Up", "Alt ↑", () => edits.shift(1), { disabled: place >= of })}
      {item("Down", "Alt ↓", () => edits.shift(-1), { disabled: place <= 1 })}
      {item("Delete", "Del", edits.remove, { label: `Delete line ${place}` })}
    </Box>
  );
}
