import { Box, Button } from "@mui/material";
import { Cap, Num } from "../../components/atoms";
import { LevelSlider } from "../../components/LevelSlider";
import { act, move } from "../../stores/hands";
import type { EngineState } from "../../stores/live";
import { ink } from "../../theme/tokens";

/** A look that is on: since when, how much of it is laid onto what started before it, and its end. */
export function Running({ run, name }: { run: EngineState["running"][number]; name: string }) {
  return (
    <Box
      role="group"
      aria-label={`${name}, on`}
      sx={{
        display: "grid",
        gridTemplateColumns: "minmax(120px,1fr) minmax(220px,1.4fr) auto",
        alignItems: "center",
        gap: 2,
        px: 2,
        py: 1,
        borderTop: `1px solid ${ink.hair}`,
        background: ink.brassGround,
        boxShadow: `inset 3px 0 ${ink.brass}`,
      }}
    >
      <Box sx={{ minWidth: 0 }}>
        <Box
          sx={{
            fontSize: 17,
            fontWeight: 600,
            overflow: "hidden",
            textOverflow: "ellipsis",
            whiteSpace: "nowrap",
          }}
        >
          {name}
        </Box>
        <Cap>
          on for <Num>{Math.max(0, Math.round(run.since_s))}</Num> s
        </Cap>
      </Box>
      <LevelSlider of={name} level={run.level} onLevel={(level) => move(`look/${run.look}/level`, level)} />
      <Button onClick={() => act(`look/${run.look}/on`, false)}>Stop</Button>
    </Box>
  );
}
