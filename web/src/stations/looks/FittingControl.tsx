import { Box } from "@mui/material";
import { Cap } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { AS_IT_IS, type Fitting, type Line } from "../../model/lines";
import type { LineEdits } from "./useLineEdits";

/** How a clip lies on its matrix. */
export function FittingControl({ line, onCommit }: { line: Line; onCommit: LineEdits["commit"] }) {
  const fitting = line.fitting ?? AS_IT_IS;
  const set = (changes: Partial<Fitting>) => onCommit({ fitting: { ...fitting, ...changes } });
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "64px 1fr", rowGap: 1, alignItems: "center" }}>
      <Cap>lies</Cap>
      <Choices
        names={[
          ["fill", "fill: covers all, cuts what is over"],
          ["fit", "fit: shows all, the rest stays clear"],
          ["stretch", "stretch: bent to the matrix"],
        ]}
        chosen={fitting.fit}
        onChoose={(fit) => set({ fit })}
      />
      <Cap>turned</Cap>
      <Choices
        names={[
          ["0", "upright"],
          ["90", "90°"],
          ["180", "180°"],
          ["270", "270°"],
        ]}
        chosen={String(fitting.rotate) as "0"}
        onChoose={(rotate) => set({ rotate: Number(rotate) as Fitting["rotate"] })}
      />
      <Cap>mirrored</Cap>
      <Choices
        names={[
          ["none", "not"],
          ["across", "across"],
          ["down", "down"],
          ["both", "both"],
        ]}
        chosen={fitting.mirror}
        onChoose={(mirror) => set({ mirror })}
      />
    </Box>
  );
}
