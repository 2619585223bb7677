import { Box, Button } from "@mui/material";
import { Cap, PaneHead } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { NO_NUMBER, round, typedNumber } from "../../model/values";
import { command, typeTime } from "../../stores/hands";
import { useLive } from "../../stores/live";

/** Show time: running or held, stepped by frames, set by typing. */
export function ShowTime() {
  const state = useLive((live) => live.engine?.state);
  if (!state) return null;
  return (
    <>
      <PaneHead title="Show time">
        <Cap>{state.held ? "held: everything moving stands still" : "running"}</Cap>
      </PaneHead>
      <Box sx={{ px: 2, pb: 2, display: "flex", gap: 1, alignItems: "center" }}>
        <Typed
          numeric
          moves
          width={104}
          label="Show time, seconds"
          value={`${round(state.show_s, state.held ? 3 : 0)} s`}
          onCommit={(text) => {
            const seconds = typedNumber(text);
            return seconds === null ? NO_NUMBER : typeTime(seconds);
          }}
        />
        <Button
          aria-pressed={state.held}
          color={state.held ? "primary" : "inherit"}
          onClick={() => command({ do: state.held ? "run_time" : "hold_time" })}
        >
          {state.held ? "Let run" : "Hold time"}
        </Button>
        <Button disabled={!state.held} onClick={() => command({ do: "step_time", frames: -1 })}>
          Frame back
        </Button>
        <Button disabled={!state.held} onClick={() => command({ do: "step_time", frames: 1 })}>
          Frame on
        </Button>
      </Box>
    </>
  );
}
