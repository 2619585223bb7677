import type { PopoverActions } from "@mui/material";
import { Box } from "@mui/material";
import { useCallback, useEffect, useRef, useState } from "react";
import { arm, useLive } from "../stores/live";
import { isStale, makeSafe } from "../stores/urgent";
import { ink } from "../theme/tokens";
import { Popover } from "./LazyMui";
import { LaserDetails } from "./later";

/** How far a finger may slide off the sign while it holds, px. */
const SLIDE_PX = 16;

/** How long the sign is held until lasers are armed, ms: long enough to be meant. */
const HOLD_MS = 1500;

const NOTHING: { id: string; number: number; name: string; fault: string }[] = [];

/** Whether lasers may emit, in a word and a shape. Held, it arms all that can be; one press makes them safe. A short
 * press on the safe sign tells what is there, who else sends to it, and how long it would stay armed. */
export function Lasers() {
  const state = useLive((live) => live.engine?.state);
  const lasers = useLive((live) => live.engine?.lasers) ?? NOTHING;
  const armed = (state?.armed.length ?? 0) > 0;
  const [begun, setBegun] = useState<number | null>(null);
  const [open, setOpen] = useState(false);
  const [until, setUntil] = useState("");
  const timer = useRef(0);
  const sign = useRef<HTMLButtonElement>(null);
  const bubble = useRef<PopoverActions>(null);
  const place = useCallback(() => bubble.current?.updatePosition(), []);
  const ready = lasers.filter((one) => !one.fault).map((one) => one.id);
  useEffect(() => () => clearTimeout(timer.current), []);

  const press = () => {
    if (armed || isStale()) return makeSafe(); // what is old only makes safe
    if (begun !== null) return;
    if (!ready.length) return setOpen(true);
    setBegun(Date.now());
    setOpen(true);
    timer.current = window.setTimeout(() => {
      setBegun(null);
      setOpen(false);
      arm(ready, until);
    }, HOLD_MS);
  };
  const letGo = () => {
    clearTimeout(timer.current);
    setBegun(null);
  };
  const left = state?.left.length ?? 0;
  const says = begun !== null ? "hold" : armed ? "armed" : "safe";
  return (
    <>
      <Box
        ref={sign}
        component="button"
        aria-label={armed ? "Lasers armed: make safe" : "Lasers safe: hold to arm"}
        aria-pressed={armed}
        title={armed ? "Lasers may emit. Press, or key L, to make them safe at once." : undefined}
        onBlur={letGo}
        onPointerDown={(event: React.PointerEvent) => {
          if (event.button !== 0) return;
          // Captured: what opens or grows over the sign meanwhile does not let it go.
          event.currentTarget.setPointerCapture(event.pointerId);
          press();
        }}
        onPointerMove={(event: React.PointerEvent) => {
          if (begun !== null && slidOff(event)) letGo();
        }}
        onPointerUp={letGo}
        onLostPointerCapture={letGo}
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
          cursor: "pointer",
          touchAction: "none",
        }}
      >
        <Sign armed={armed} arming={begun !== null} />
        <br />
        {begun !== null ? "arming" : "lasers"}
        <br />
        {says}
        {left > 0 && !armed && begun === null && <span style={{ color: ink.brass }}> +{left}</span>}
      </Box>
      <Popover
        open={open}
        action={bubble}
        anchorEl={sign.current}
        onClose={() => setOpen(false)}
        anchorOrigin={{ vertical: "top", horizontal: "left" }}
        transformOrigin={{ vertical: "bottom", horizontal: "left" }}
        disableAutoFocus
        disableEnforceFocus
        disableRestoreFocus
        hideBackdrop
        slotProps={{
          root: { sx: { pointerEvents: "none" } },
          paper: { sx: { width: 380, border: `1px solid ${ink.hair2}`, pointerEvents: "auto", mt: -1 } },
        }}
      >
        <LaserDetails
          arming={begun !== null}
          until={until}
          onUntil={setUntil}
          onFilled={place}
          onClose={() => setOpen(false)}
        />
      </Popover>
    </>
  );
}

function slidOff(event: React.PointerEvent) {
  const box = event.currentTarget.getBoundingClientRect();
  return (
    event.clientX < box.left - SLIDE_PX ||
    event.clientX > box.right + SLIDE_PX ||
    event.clientY < box.top - SLIDE_PX ||
    event.clientY > box.bottom + SLIDE_PX
  );
}

function Sign({ armed, arming }: { armed: boolean; arming: boolean }) {
  return (
    <svg width="26" height="26" viewBox="0 0 26 26" aria-hidden="true">
      <circle cx="13" cy="13" r="11" fill="none" stroke="currentColor" strokeWidth="1.5" />
      <path d={armed ? "M13 5v16M5 13h16" : "M8 13h10"} stroke="currentColor" strokeWidth="2.4" />
      {arming && (
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
          <animate attributeName="stroke-dashoffset" from="69" to="0" dur={`${HOLD_MS}ms`} fill="freeze" />
        </circle>
      )}
    </svg>
  );
}
