import { Box, Tooltip } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { useShow } from "../api/show";
import { command, useLive } from "../stores/live";
import { ink } from "../theme/tokens";

/** How long the sign is held until lasers are armed, ms: long enough to be meant. */
const HOLD_MS = 1500;

/** Whether lasers may emit, in a word and a shape. Held, it arms all of them; one press makes them safe. */
export function Lasers() {
  const { data } = useShow();
  const armed = useLive((live) => (live.engine?.state.armed.length ?? 0) > 0);
  const [begun, setBegun] = useState<number | null>(null);
  const timer = useRef(0);
  const guarded = new Set(data?.profiles.filter((one) => one.guarded).map((one) => one.id));
  const lasers = data?.fixtures.filter((one) => guarded.has(one.profile)).map((one) => one.id) ?? [];
  useEffect(() => () => clearTimeout(timer.current), []);

  const press = () => {
    if (armed) return command({ do: "arm", fixtures: [] });
    if (!lasers.length || begun !== null) return;
    setBegun(Date.now());
    timer.current = window.setTimeout(() => {
      setBegun(null);
      command({ do: "arm", fixtures: lasers });
    }, HOLD_MS);
  };
  const letGo = () => {
    clearTimeout(timer.current);
    setBegun(null);
  };
  const says = armed
    ? "Lasers may emit. Press to make them safe at once."
    : lasers.length
      ? `${lasers.length} ${lasers.length === 1 ? "laser is" : "lasers are"} held at safe values, above everything. Hold this for 1.5 s to arm.`
      : "No laser in this show; one would be held at its safe values until it is armed here.";
  return (
    <Tooltip title={says}>
      <Box
        component="button"
        aria-label={armed ? "Lasers armed: make safe" : "Lasers safe: hold to arm"}
        aria-pressed={armed}
        onPointerDown={press}
        onPointerUp={letGo}
        onPointerLeave={letGo}
        onKeyDown={(event: React.KeyboardEvent) => {
          if ((event.key === " " || event.key === "Enter") && !event.repeat) {
            event.preventDefault();
            press();
          }
        }}
        onKeyUp={letGo}
        sx={{
          textAlign: "center",
          font: "inherit",
          fontSize: 11.5,
          lineHeight: "13px",
          color: armed ? ink.coral : ink.sea,
          whiteSpace: "nowrap",
          background: armed ? ink.coralGround : "none",
          border: 0,
          borderRadius: "4px",
          p: 0.5,
          cursor: lasers.length || armed ? "pointer" : "default",
          touchAction: "none",
        }}
      >
        <svg width="26" height="26" viewBox="0 0 26 26" aria-hidden="true">
          <circle cx="13" cy="13" r="11" fill="none" stroke="currentColor" strokeWidth="1.5" />
          <path d={armed ? "M13 5v16M5 13h16" : "M8 13h10"} stroke="currentColor" strokeWidth="2.4" />
          {begun !== null && (
            <circle
              cx="13"
              cy="13"
              r="11"
              fill="none"
              stroke={ink.coral}
              strokeWidth="3"
              strokeDasharray="69"
              transform="rotate(-90 13 13)"
            >
              <animate
                attributeName="stroke-dashoffset"
                from="69"
                to="0"
                dur={`${HOLD_MS}ms`}
                fill="freeze"
              />
            </circle>
          )}
        </svg>
        <br />
        {begun !== null ? "arming" : "lasers"}
        <br />
        {begun !== null ? "hold" : armed ? "armed" : "safe"}
      </Box>
    </Tooltip>
  );
}
