import { Box } from "@mui/material";
import { Link } from "wouter";
import { ink } from "../theme/tokens";

interface PlacesProps {
  /** Key, words and address of each. */
  places: readonly (readonly [string, string, string])[];
  at: string;
  gap?: number;
}

/** The views of a station, side by side; the one at hand is underlined. */
export function Places({ places, at, gap = 2.5 }: PlacesProps) {
  return (
    <Box component="nav" aria-label="Views" sx={{ display: "flex", alignItems: "center", gap }}>
      {places.map(([key, text, to]) => (
        <Box
          key={key}
          component={Link}
          to={to}
          aria-current={key === at ? "page" : undefined}
          sx={{
            fontWeight: 600,
            textDecoration: "none",
            color: key === at ? ink.text : ink.soft,
            borderBottom: `2px solid ${key === at ? ink.brass : "transparent"}`,
            lineHeight: "26px",
            "&:hover": { color: ink.text },
          }}
        >
          {text}
        </Box>
      ))}
    </Box>
  );
}
