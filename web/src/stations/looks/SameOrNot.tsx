import { Box } from "@mui/material";
import { Cap, FaultNote, Num } from "../../components/atoms";
import type { EngineState } from "../../stores/live";
import { ink } from "../../theme/tokens";

/** Why what this look paints is not what is sent; "" where it is. */
export function whyDark(state: EngineState | undefined, on: boolean, blind: boolean): string {
  if (!state) return "The engine does not answer this page.";
  if (state.blackout) return "Blackout is on: all light is held at zero.";
  if (state.master === 0) return "The grand master stands at zero.";
  if (!on)
    return "This look is off: painted and cells show it as if it were on, sent shows what else is sent.";
  if (blind) return "Not sent: painted and cells show your changes, sent goes on as it was.";
  if (state.freeze) return "Frozen: the last frame goes on being sent.";
  return "";
}

interface SameProps {
  on: boolean;
  why: string;
  difference: number;
  state: string;
}

/** Whether what was asked of the cells is what was sent, with the largest difference. */
export function SameOrNot({ on, why, difference, state }: SameProps) {
  return (
    <Box sx={{ mt: 1.5 }}>
      {why && <Cap sx={{ color: ink.brass, fontSize: 13, lineHeight: "18px" }}>{why}</Cap>}
      {on && difference >= 0 && state === "sent" && (
        <Box
          sx={{ display: "flex", alignItems: "center", gap: 1, color: difference > 2 ? ink.brass : ink.sea }}
        >
          <svg width="15" height="15" viewBox="0 0 15 15" aria-hidden="true">
            <circle cx="7.5" cy="7.5" r="6.4" fill="none" stroke="currentColor" strokeWidth="1.2" />
            <path
              d={difference > 2 ? "M7.5 4v4.5M7.5 10v1.2" : "m4.6 7.6 2.1 2.1 3.8-4.3"}
              fill="none"
              stroke="currentColor"
              strokeWidth="1.3"
            />
          </svg>
          <Box sx={{ fontSize: 13 }}>{difference > 2 ? "sent in coarser steps" : "asked = sent"}</Box>
          <Cap sx={{ ml: "auto" }}>
            largest difference <Num>{difference}</Num> of 255
          </Cap>
        </Box>
      )}
      {state !== "sent" && (
        <FaultNote
          what={state === "partly" ? "Some of its universes are not sent." : "None of its universes is sent."}
          repair="See the outputs at Patch (key 2)."
        />
      )}
    </Box>
  );
}
