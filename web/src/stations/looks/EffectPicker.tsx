import { Box } from "@mui/material";
import { useState } from "react";
import type { EffectView, MatrixView } from "../../api/client";
import { Cap, Chip } from "../../components/atoms";
import { effectsFor, unsuited } from "../../model/effects";
import { ink } from "../../theme/tokens";

interface PickerProps {
  effects: EffectView[];
  chosen: string;
  matrix: MatrixView | undefined;
  onChoose: (effect: string) => unknown;
}

/** The effects, found by their name or by plain words; one that does not suit the matrix says why. */
export function EffectPicker({ effects, chosen, matrix, onChoose }: PickerProps) {
  const [text, setText] = useState("");
  const found = effectsFor(effects, text);
  return (
    <Box>
      <Box
        component="input"
        aria-label="Find an effect"
        placeholder="find: gradient, noise, chase ..."
        value={text}
        onChange={(event: React.ChangeEvent<HTMLInputElement>) => setText(event.target.value)}
        onKeyDown={(event: React.KeyboardEvent) => {
          if (event.key === "Enter" && found[0]) void onChoose(found[0].name);
        }}
        sx={{
          width: 260,
          height: 28,
          px: 1,
          mb: 1,
          font: "inherit",
          color: ink.text,
          background: "transparent",
          border: `1px solid ${ink.hair2}`,
          borderRadius: "4px",
          "&:focus": { borderColor: ink.brass, outline: "none" },
          "&::placeholder": { color: ink.faint, opacity: 1 },
        }}
      />
      {found.map((effect) => {
        const why = matrix ? unsuited(effect, matrix.width, matrix.height) : "";
        return (
          <Box key={effect.name} sx={{ display: "flex", gap: 1.25, alignItems: "center", py: "3px" }}>
            <Chip
              active={effect.name === chosen}
              aria-pressed={effect.name === chosen}
              onClick={() => effect.name !== chosen && onChoose(effect.name)}
            >
              {effect.name}
            </Chip>
            <Cap>{effect.says}</Cap>
            {why && <Cap sx={{ color: ink.brass }}>{why}</Cap>}
          </Box>
        );
      })}
      {!found.length && <Cap>No effect answers to '{text}'.</Cap>}
    </Box>
  );
}
