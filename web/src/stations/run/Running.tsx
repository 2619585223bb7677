import { Box, Button } from "@mui/material";
import { useState } from "react";
import { Cap, Num } from "../../components/atoms";
import { ValueSlider } from "../../components/ValueSlider";
import { command, type EngineState } from "../../stores/live";
import { ink } from "../../theme/tokens";

const SETTLE_MS = 600;

/** A look that is on: since when, how much of it is laid onto what started before it, and its end. */
export function Running({ run, name }: { run: EngineState["running"][number]; name: string }) {
  const [moving, setMoving] = useState<number | null>(null);
  const set = (percent: number) => {
    setMoving(percent);
    command({ do: "look_level", look: run.look, level: percent / 100 });
  };
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
      <ValueSlider
        label="level"
        value={moving ?? run.level * 100}
        minimum={0}
        maximum={100}
        unit="%"
        onMove={set}
        onCommit={(percent) => {
          set(percent);
          setTimeout(() => setMoving(null), SETTLE_MS);
        }}
      />
      <Button onClick={() => command({ do: "stop", look: run.look })}>Stop</Button>
    </Box>
  );
}
