import { MenuItem, Select } from "@mui/material";
import { ink } from "../theme/tokens";

interface PickProps<K extends string> {
  label: string;
  names: readonly (readonly [K, string])[];
  chosen: K;
  onChoose: (key: K) => unknown;
}

/** One of many where there is no room to show them all: the chosen one as a chip that opens the others. */
export function Pick<K extends string>({ label, names, chosen, onChoose }: PickProps<K>) {
  return (
    <Select
      variant="standard"
      disableUnderline
      displayEmpty
      value={chosen}
      inputProps={{ "aria-label": label }}
      onChange={(event) => event.target.value !== chosen && onChoose(event.target.value as K)}
      sx={{
        height: 24,
        fontSize: 13,
        borderRadius: "12px",
        border: `1px solid ${ink.hair}`,
        background: ink.row,
        "&:hover": { borderColor: ink.soft },
        "& .MuiSelect-select": { py: 0, pl: 1.25, background: "none" },
      }}
    >
      {names.map(([key, text]) => (
        <MenuItem key={key} value={key} dense>
          {text}
        </MenuItem>
      ))}
    </Select>
  );
}
