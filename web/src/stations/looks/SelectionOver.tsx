import { Box } from "@mui/material";
import { Cap } from "../../components/atoms";
import { Typed } from "../../components/Typed";

interface OverProps {
  /** What is typed now; "" where the line is painted over a matrix or a group. */
  text: string;
  /** The sentence that says what is wrong, if it is. */
  onType: (text: string) => Promise<string>;
}

/** A line over what typed words mean: each cell a square of one row, and whoever they come to mean is painted too. */
export function SelectionOver({ text, onType }: OverProps) {
  return (
    <Box sx={{ display: "flex", gap: 0.75, alignItems: "center", mt: 1, flexWrap: "wrap" }}>
      <Cap>or any selection, in a row</Cap>
      <Typed width={200} label="Selection" placeholder="Bars & odd" value={text} onCommit={onType} />
    </Box>
  );
}
