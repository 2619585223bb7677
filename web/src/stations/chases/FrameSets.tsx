import { Box } from "@mui/material";
import type { Schemas } from "../../api/client";
import { Cap, Chip, Num } from "../../components/atoms";
import { ink } from "../../theme/tokens";

interface SetsProps {
  sets: Schemas["FrameSets"][];
  onTake: (word: string) => void;
}

/** What the frame that is drawn sets beside its colours; a press takes one away. */
export function FrameSets({ sets, onTake }: SetsProps) {
  if (!sets.length) return null;
  return (
    <Box
      role="group"
      aria-label="Beside its colours"
      sx={{
        display: "flex",
        flexWrap: "wrap",
        alignItems: "center",
        gap: 0.75,
        px: 2,
        py: 0.75,
        borderBottom: `1px solid ${ink.hair}`,
      }}
    >
      <Cap>sets too</Cap>
      {sets.map((one) => (
        <Chip key={one.attribute} title={`Take ${one.word} away`} onClick={() => onTake(one.word)}>
          {one.word} <Num>{one.text}</Num> ×
        </Chip>
      ))}
    </Box>
  );
}
