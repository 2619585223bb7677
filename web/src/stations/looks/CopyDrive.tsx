import { Box, MenuItem, Select } from "@mui/material";
import type { Line } from "../../model/lines";
import { ink } from "../../theme/tokens";
import type { LineEdits } from "./useLineEdits";
import { useParameters } from "./useParameters";

const OF_LINE: Record<string, string> = { opacity: "opacity", shift: "place along the ramp" };

interface CopyProps {
  look: string;
  line: Line;
  name: string;
  edits: LineEdits;
  onFault: (fault: string) => void;
}

/** Lets another number of the line be moved in the same way. */
export function CopyDrive({ look, line, name, edits, onFault }: CopyProps) {
  const numbers = useParameters(line)
    .filter((one) => one.kind === "number")
    .map((one) => [`params.${one.name}`, one.name] as const);
  const others = [...numbers, ...Object.entries(OF_LINE)].filter(
    ([key]) => key !== name && !line.drives[key],
  );
  if (!others.length || name === "speed" || name === "cycle") return <Box sx={{ ml: "auto" }} />;
  return (
    <Select
      variant="standard"
      displayEmpty
      value=""
      inputProps={{ "aria-label": "Copy this drive to" }}
      renderValue={() => <span style={{ color: ink.soft }}>copy to</span>}
      sx={{ ml: "auto", fontSize: 13 }}
      onChange={async (event) => onFault(await edits.copyDrive(look, name, event.target.value))}
    >
      {others.map(([key, says]) => (
        <MenuItem key={key} value={key}>
          {says}
        </MenuItem>
      ))}
    </Select>
  );
}
