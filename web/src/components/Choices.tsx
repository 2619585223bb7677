import { Box } from "@mui/material";
import { Chip } from "./atoms";

interface ChoicesProps<K extends string> {
  names: readonly (readonly [K, string])[];
  chosen: K;
  onChoose: (key: K) => unknown;
}

/** One of a few, as chips. Choosing the chosen one again changes nothing. */
export function Choices<K extends string>({ names, chosen, onChoose }: ChoicesProps<K>) {
  return (
    <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap" }}>
      {names.map(([key, text]) => (
        <Chip
          key={key}
          active={key === chosen}
          aria-pressed={key === chosen}
          onClick={() => key !== chosen && onChoose(key)}
        >
          {text}
        </Chip>
      ))}
    </Box>
  );
}
