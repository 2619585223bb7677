import { Box } from "@mui/material";
import { useState } from "react";
import type { WalkView } from "../../../model/walks";
import { ink } from "../../../theme/tokens";
import { go } from "./useWalk";

/** How far the walk is; a click goes there. */
export function StrandBar({ walk }: { walk: WalkView }) {
  const [over, setOver] = useState<number | null>(null);
  const at = walk.count > 1 ? walk.index / (walk.count - 1) : 0;
  const stepAt = (event: React.PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    const part = (event.clientX - box.left) / box.width;
    return Math.max(0, Math.min(walk.count - 1, Math.round(part * (walk.count - 1))));
  };
  return (
    <Box
      role="slider"
      tabIndex={0}
      aria-label="Step of the walk"
      aria-valuemin={1}
      aria-valuemax={walk.count}
      aria-valuenow={walk.index + 1}
      title={over === null ? undefined : `step ${over + 1}`}
      onPointerMove={(event) => setOver(stepAt(event))}
      onClick={(event) => void go({ to: stepAt(event as unknown as React.PointerEvent) })}
      sx={{ height: 20, my: 0.75, position: "relative", cursor: "pointer" }}
    >
      <Box sx={{ position: "absolute", left: 0, right: 0, top: 9, borderTop: `2px dotted ${ink.hair2}` }} />
      <Box
        sx={{
          position: "absolute",
          left: 0,
          width: `${at * 100}%`,
          top: 9,
          borderTop: `2px solid ${ink.brass}`,
        }}
      />
      <Box
        sx={{
          position: "absolute",
          left: `calc(${at * 100}% - 5px)`,
          top: 5,
          width: 10,
          height: 10,
          borderRadius: "50%",
          background: ink.brass,
        }}
      />
    </Box>
  );
}
