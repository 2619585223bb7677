import { Box } from "@mui/material";
import type { ReactNode } from "react";
import { Link } from "wouter";
import { ink } from "../../theme/tokens";

const PLACES = [
  ["fixtures", "Fixtures", "/rig"],
  ["plan", "Plan", "/rig/plan"],
  ["profiles", "Profiles", "/rig/profiles"],
] as const;

/** The head of the Rig: its two places, and what the one at hand needs. */
export function RigHead({ at, children }: { at: "fixtures" | "plan" | "profiles"; children?: ReactNode }) {
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 2.5, px: 2, minHeight: 48 }}>
      {PLACES.map(([key, text, to]) => (
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
      <Box sx={{ flex: 1, display: "flex", justifyContent: "flex-end", alignItems: "center", gap: 1 }}>
        {children}
      </Box>
    </Box>
  );
}
