import { Box } from "@mui/material";
import { Places } from "../../components/Places";

const PLACES = [
  ["list", "List", "/run"],
  ["score", "Score", "/run/score"],
  ["pages", "Pages", "/run/pages"],
  ["clock", "Clock", "/run/clock"],
] as const;

/** The views of Run. */
export function RunViews({ at }: { at: (typeof PLACES)[number][0] }) {
  return (
    <Box sx={{ px: 1.75, minHeight: 44, whiteSpace: "nowrap", display: "flex", alignItems: "center" }}>
      <Places places={PLACES} at={at} gap={1.5} />
    </Box>
  );
}
