import { Box, Button } from "@mui/material";
import { useState } from "react";
import type { LookView } from "../../api/client";
import { Cap, KeyCap, Num } from "../../components/atoms";
import type { Line } from "../../model/lines";
import { ink } from "../../theme/tokens";
import { Unroll } from "./Unroll";
import type { LineEdits } from "./useLineEdits";

interface ActionsProps {
  look: LookView;
  edits: LineEdits;
  line: Line;
  place: number;
  of: number;
}

/** What can be done to the chosen line, with its keys. */
export function LineActions({ look, edits, line, place, of }: ActionsProps) {
  const [unrolling, setUnrolling] = useState(false);
  const timed = line.paints === "effect" || line.paints === "clip";
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
    <Box sx={{ mt: 0.5, ml: "104px" }}>
      <Box sx={{ display: "flex", gap: 0.25, flexWrap: "wrap" }}>
        {item(line.mute ? "Muted" : "Mute", "M", () => edits.commit({ mute: !line.mute }), {
          pressed: line.mute,
        })}
        {item("Solo", "S", () => edits.commit({ solo: !line.solo }), { pressed: line.solo ?? false })}
        {item("Duplicate", "D", edits.duplicate)}
        {line.paints === "effect" && item("Surprise", "R", edits.surprise)}
        {line.paints === "effect" && line.seed > 0 && (
          <Cap sx={{ alignSelf: "center", px: 0.5 }} title="The same seed draws the same again">
            seed <Num>{line.seed}</Num>
          </Cap>
        )}
        {timed && (
          <Button
            variant="text"
            aria-label={`Unroll line ${place}`}
            aria-expanded={unrolling}
            title="Makes frames of it that can be drawn on"
            onClick={() => setUnrolling(!unrolling)}
            sx={{ color: unrolling ? ink.brass : ink.soft, px: 0.75 }}
          >
            Unroll
          </Button>
        )}
        {item("Up", "Alt ↑", () => edits.shift(1), { disabled: place >= of })}
        {item("Down", "Alt ↓", () => edits.shift(-1), { disabled: place <= 1 })}
        {item("Delete", "Del", edits.remove, { label: `Delete line ${place}` })}
      </Box>
      {unrolling && <Unroll look={look} line={line.id} onClose={() => setUnrolling(false)} />}
    </Box>
  );
}
