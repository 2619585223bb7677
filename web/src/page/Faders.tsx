import { Box } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import type { WholeShow } from "../api/client";
import type { ItemNow } from "../stores/page";
import { ink, mono } from "../theme/tokens";
import { ItemMark } from "./ItemMark";
import { Line } from "./ItemView";
import { HUES, type Item } from "./shapes";

interface FaderProps {
  item: Item;
  now: ItemNow;
  onShare: (share: number) => void;
}

/** While a finger moves it, it stands where the finger is; then where it is said to be. */
const SETTLE_MS = 400;

function useShare(now: ItemNow, onShare: (share: number) => void) {
  const [held, setHeld] = useState<number | null>(null);
  const timer = useRef(0);
  useEffect(() => () => clearTimeout(timer.current), []);
  const to = (share: number) => {
    const next = Math.min(Math.max(share, 0), 1);
    clearTimeout(timer.current);
    setHeld(next);
    onShare(next);
  };
  const over = () => {
    clearTimeout(timer.current);
    timer.current = window.setTimeout(() => setHeld(null), SETTLE_MS);
  };
  return { share: held ?? now.level, to, over };
}

/** Half of the knob stands beyond the track at either end. */
const ENDS = 27;

/** Where a finger is on a track, 0..1. */
function at(event: React.PointerEvent<HTMLElement>, upright: boolean): number {
  const box = event.currentTarget.getBoundingClientRect();
  const [from, long] = upright
    ? [box.bottom - event.clientY, box.height]
    : [event.clientX - box.left, box.width];
  return (from - ENDS) / Math.max(long - 2 * ENDS, 1);
}

/** The same place for CSS. */
const placed = (share: number): string => `calc(${ENDS}px + (100% - ${2 * ENDS}px) * ${share})`;

/** What a finger takes hold of, with the grooves of a grip. */
function Knob({ upright, sx }: { upright: boolean; sx: object }) {
  return (
    <Box
      sx={{
        position: "absolute",
        border: `2px solid ${ink.brass}`,
        borderRadius: "8px",
        background: ink.brassGround,
        display: "flex",
        flexDirection: upright ? "column" : "row",
        alignItems: "center",
        justifyContent: "center",
        gap: "6px",
        pointerEvents: "none",
        ...sx,
      }}
    >
      {[1, 2, 3].map((one) => (
        <span
          key={one}
          style={{
            background: ink.brass,
            ...(upright ? { width: 22, height: 2 } : { width: 2, height: 22 }),
          }}
        />
      ))}
    </Box>
  );
}

/** A mark at every tenth along a track, a longer one at its middle and ends. */
function Tenths({ upright, start }: { upright: boolean; start: string }) {
  return Array.from({ length: 11 }, (_, n) => {
    const long = n % 5 === 0 ? 10 : 6;
    return (
      <span
        key={placed(n / 10)}
        style={{
          position: "absolute",
          background: ink.hair2,
          ...(upright
            ? { left: start, width: long, height: 2, bottom: `calc(${placed(n / 10)} - 1px)` }
            : { top: start, width: 2, height: long, left: `calc(${placed(n / 10)} - 1px)` }),
        }}
      />
    );
  });
}

const STEP = 0.05;

function keyed(event: React.KeyboardEvent, share: number): number | null {
  if (event.key === "ArrowUp" || event.key === "ArrowRight") return share + STEP;
  if (event.key === "ArrowDown" || event.key === "ArrowLeft") return share - STEP;
  if (event.key === "Home") return 0;
  return event.key === "End" ? 1 : null;
}

function track(share: ReturnType<typeof useShare>, upright: boolean) {
  return {
    onPointerDown: (event: React.PointerEvent<HTMLElement>) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      share.to(at(event, upright));
    },
    onPointerMove: (event: React.PointerEvent<HTMLElement>) => {
      if (event.currentTarget.hasPointerCapture(event.pointerId)) share.to(at(event, upright));
    },
    onPointerUp: share.over,
    onPointerCancel: share.over,
    onKeyDown: (event: React.KeyboardEvent) => {
      const next = keyed(event, share.share);
      if (next === null) return;
      event.preventDefault();
      share.to(next);
      share.over();
    },
  };
}

/** A level that is shown and moved, upright or lying. */
export function Fader({ item, now, show, onShare }: FaderProps & { show: WholeShow }) {
  const share = useShare(now, onShare);
  const upright = item.h > item.w;
  const pictured = item.mark === "sent" && upright;
  const middle = pictured ? "24px" : "50%";
  const hue = HUES[item.hue];
  const place = placed(share.share);
  return (
    <Box
      sx={{
        flex: 1,
        minWidth: 0,
        border: `2px solid ${now.gone ? ink.coral : hue}`,
        borderRadius: "8px",
        background: ink.row,
        display: "grid",
        p: "10px 14px",
        gap: "8px",
        ...(upright
          ? { gridTemplateRows: "auto minmax(0,1fr)" }
          : { gridTemplateColumns: "minmax(96px, 22%) minmax(0,1fr)", alignItems: "center" }),
      }}
    >
      <Box sx={{ minWidth: 0 }}>
        <Line sx={{ fontSize: 19, fontWeight: 650 }}>{item.words}</Line>
        <Box sx={{ font: `500 21px ${mono}`, color: now.gone ? ink.coral : ink.text }}>{now.said}</Box>
      </Box>
      <Box
        role="slider"
        tabIndex={0}
        aria-label={item.words}
        aria-orientation={upright ? "vertical" : "horizontal"}
        aria-valuenow={Math.round(share.share * 100)}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuetext={now.said}
        {...track(share, upright)}
        sx={{
          position: "relative",
          touchAction: "none",
          cursor: "pointer",
          minHeight: upright ? 0 : 46,
          borderRadius: "4px",
        }}
      >
        <Box
          sx={{
            position: "absolute",
            background: ink.hair,
            borderRadius: "3px",
            ...(upright
              ? { left: middle, width: 14, ml: "-7px", top: 0, bottom: 0 }
              : { top: "calc(50% - 7px)", height: 14, left: 0, right: 0 }),
          }}
        >
          <Box
            sx={{
              position: "absolute",
              background: ink.brass,
              borderRadius: "3px",
              ...(upright
                ? { left: 0, right: 0, bottom: 0, height: place }
                : { top: 0, bottom: 0, left: 0, width: place }),
            }}
          />
        </Box>
        {pictured && (
          <Box sx={{ position: "absolute", inset: `${ENDS}px 0 ${ENDS}px 54px`, pointerEvents: "none" }}>
            <ItemMark item={item} show={show} colour={ink.text} fill />
            <Box
              sx={{
                position: "absolute",
                left: -6,
                right: 0,
                height: 2,
                background: ink.brass,
                bottom: `calc(100% * ${share.share} - 1px)`,
              }}
            />
          </Box>
        )}
        {!pictured && <Tenths upright={upright} start={upright ? "calc(50% + 32px)" : "calc(50% + 12px)"} />}
        <Knob
          upright={upright}
          sx={
            upright
              ? { left: middle, ml: "-24px", width: 48, height: 40, bottom: `calc(${place} - 20px)` }
              : { top: "calc(50% - 22px)", height: 44, width: 48, left: `calc(${place} - 24px)` }
          }
        />
      </Box>
    </Box>
  );
}

const sideOf = (level: number, now: ItemNow): string => (now.on ? `${Math.round(level * 100)} %` : "off");

/** Two looks, one against the other: each begins when its side leaves 0. */
export function Crossfader({ item, now, onShare }: FaderProps) {
  const share = useShare(now, onShare);
  const [first, second] = item.handles.map((one) => one.words);
  const [left = 0, right = 0] = now.sides ?? [];
  return (
    <Box
      sx={{
        flex: 1,
        minWidth: 0,
        border: `2px solid ${now.gone ? ink.coral : ink.brass}`,
        borderRadius: "8px",
        background: ink.row,
        display: "grid",
        gridTemplateRows: "auto minmax(0,1fr)",
        p: "10px 14px",
      }}
    >
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", columnGap: 2 }}>
        <Line sx={{ fontSize: 19, fontWeight: 650 }}>{first}</Line>
        <Line sx={{ fontSize: 19, fontWeight: 650, textAlign: "right" }}>{second}</Line>
        <span style={{ font: `500 21px ${mono}` }}>{sideOf(left, now)}</span>
        <span style={{ font: `500 21px ${mono}`, textAlign: "right" }}>{sideOf(right, now)}</span>
      </Box>
      <Box
        role="slider"
        tabIndex={0}
        aria-label={item.words || `${first} to ${second}`}
        aria-valuenow={Math.round(share.share * 100)}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuetext={now.said}
        {...track(share, false)}
        sx={{
          position: "relative",
          touchAction: "none",
          cursor: "pointer",
          borderRadius: "4px",
          minHeight: 0,
        }}
      >
        <svg width="100%" height="100%" viewBox="0 0 100 100" preserveAspectRatio="none" aria-hidden="true">
          <path
            d={`M0 ${90 - left * 70} L100 ${90 - right * 70} L100 100 L0 100Z`}
            fill="var(--brass)"
            opacity="0.35"
          />
          <path
            d={`M0 ${90 - left * 70} L100 ${90 - right * 70}`}
            stroke="var(--brass)"
            strokeWidth="3"
            vectorEffect="non-scaling-stroke"
          />
        </svg>
        <Tenths upright={false} start="calc(100% - 8px)" />
        <Knob
          upright={false}
          sx={{
            top: "calc(50% - 24px)",
            left: `calc(${placed(share.share)} - 27px)`,
            width: 54,
            height: 48,
            maxHeight: "100%",
          }}
        />
      </Box>
    </Box>
  );
}
