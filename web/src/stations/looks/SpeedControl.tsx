import { Box } from "@mui/material";
import { Cap, Chip } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import type { ChaseLine, ClipLine, EffectLine } from "../../model/lines";
import { saySpeed } from "../../model/values";
import { DriveControl } from "./DriveControl";
import type { LineEdits } from "./useLineEdits";

const SPEEDS = ["1 s", "2 s", "4 s", "8 s", "1 beat", "2 beats", "1 bar", "2 bars", "4 bars"];
const CLIP_SPEEDS = ["25 %", "50 %", "100 %", "150 %", "200 %", "4 bars", "8 bars"];

interface SpeedProps {
  look: string;
  line: EffectLine | ClipLine | ChaseLine;
  edits: LineEdits;
}

/** How fast a line runs, what drives that, and what takes the place of time. */
export function SpeedControl({ look, line, edits }: SpeedProps) {
  return (
    <>
      <Pace line={line} edits={edits} />
      <DriveControl
        look={look}
        line={line}
        name="speed"
        says="factor of the speed"
        unit="times"
        each={false}
        edits={edits}
      />
      <DriveControl
        look={look}
        line={line}
        name="cycle"
        says="place in its cycle, instead of time"
        unit="%"
        each={false}
        times={100}
        edits={edits}
      />
    </>
  );
}

function Pace({ line, edits: { commit, type } }: Omit<SpeedProps, "look">) {
  const isClip = line.paints === "clip";
  return (
    <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap", alignItems: "center" }}>
      <Cap>{isClip ? "speed, or how long one round takes" : "one round takes"}</Cap>
      <Typed
        numeric
        width={92}
        label="Speed"
        value={saySpeed(line.speed)}
        onCommit={(text) => type({ speed: text })}
      />
      <Chip
        active={line.speed.value < 0}
        aria-pressed={line.speed.value < 0}
        title="A negative speed runs backward"
        onClick={() => commit({ speed: { ...line.speed, value: -line.speed.value } })}
      >
        backward
      </Chip>
      {(isClip ? CLIP_SPEEDS : SPEEDS).map((text) => (
        <Chip key={text} active={saySpeed(line.speed) === text} onClick={() => type({ speed: text })}>
          {text}
        </Chip>
      ))}
    </Box>
  );
}
