import { Button } from "@mui/material";
import { useEffect, useState } from "react";
import { letGo, moveAll } from "../../stores/hands";
import type { ChaseNow } from "./ChaseSide";

/** Keeps the frame that is drawn on the lamps, in every look that runs the chase, until it is let go or left. */
export function OnLamps({ playing, frame }: { playing: ChaseNow[]; frame: number }) {
  const [on, setOn] = useState(false);
  const lines = playing
    .map((one) => `look/${one.look}/${one.line}/frame`)
    .sort()
    .join();
  useEffect(() => {
    if (!on || !lines) return;
    moveAll(lines.split(",").map((handle) => ({ handle, value: frame })));
  }, [on, lines, frame]);
  useEffect(() => (on && lines ? () => letGo(lines.split(",")) : undefined), [on, lines]);
  return (
    <Button
      aria-pressed={on && !!lines}
      disabled={!lines}
      color={on && lines ? "primary" : "inherit"}
      title={
        lines
          ? "The frame you draw stands on the lamps while you draw it"
          : "No running look shows this chase: start one that does"
      }
      onClick={() => setOn(!on)}
    >
      On the lamps
    </Button>
  );
}
