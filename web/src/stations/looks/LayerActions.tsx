import { Box, Button } from "@mui/material";
import { KeyCap } from "../../components/atoms";
import type { Layer } from "../../model/layers";
import { ink } from "../../theme/tokens";
import type { LayerEdits } from "./useLayerEdits";

interface ActionsProps {
  edits: LayerEdits;
  layer: Layer;
  place: number;
  of: number;
}

/** What can be done to the chosen line, with its keys. */
export function LayerActions({ edits, layer, place, of }: ActionsProps) {
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
      {item(layer.mute ? "Muted" : "Mute", "M", () => edits.commit({ mute: !layer.mute }), {
        pressed: layer.mute,
      })}
      {item("Solo", "S", () => edits.commit({ solo: !layer.solo }), { pressed: layer.solo ?? false })}
      {item("Duplicate", "D", edits.duplicate)}
      {item("Up", "Alt ↑", () => edits.shift(1), { disabled: place >= of })}
      {item("Down", "Alt ↓", () => edits.shift(-1), { disabled: place <= 1 })}
      {item("Delete", "Del", edits.remove, { label: `Delete line ${place}` })}
    </Box>
  );
}
