import { Box } from "@mui/material";
import type { ReactNode } from "react";
import { Places } from "../../components/Places";

const PLACES = [
  ["fixtures", "Fixtures", "/rig"],
  ["plan", "Plan", "/rig/plan"],
  ["profiles", "Profiles", "/rig/profiles"],
] as const;

/** The head of the Rig: its places, and what the one at hand needs. */
export function RigHead({ at, children }: { at: "fixtures" | "plan" | "profiles"; children?: ReactNode }) {
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 2.5, px: 2, minHeight: 48 }}>
      <Places places={PLACES} at={at} />
      <Box sx={{ flex: 1, display: "flex", justifyContent: "flex-end", alignItems: "center", gap: 1 }}>
        {children}
      </Box>
    </Box>
  );
}
