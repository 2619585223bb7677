import { Box } from "@mui/material";
import { useEffect, useRef } from "react";
import { Cap } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { NO_NUMBER, round, typedNumber } from "../../model/values";
import { ink } from "../../theme/tokens";
import type { ChaseNow } from "./ChaseSide";
import { type Chase, pictureUrl } from "./useFramePicture";

/** How a frame comes in and stays: a slope as long as its fade, then level. */
function Course({ fade, hold, playing }: { fade: number; hold: number; playing: boolean }) {
  const rise = (fade / Math.max(fade + hold, 1e-6)) * WIDE;
  return (
    <svg width={WIDE} height="11" aria-hidden="true" style={{ display: "block", margin: "4px 0 1px 4px" }}>
      <path
        d={`M0 11 L${rise} 0.5 H${WIDE} V11 Z`}
        fill={playing ? ink.sea : ink.hair2}
        opacity={playing ? 0.8 : 1}
      />
    </svg>
  );
}

interface CardProps {
  chase: Chase;
  place: number;
  frame: Chase["frames"][number];
  here: boolean;
  chosen: boolean;
  now: ChaseNow | undefined;
  onChoose: (event: React.MouseEvent) => void;
  onTime: (times: { fade: number } | { hold: number }) => Promise<string>;
  /** Copies that wait behind it to be put in. */
  ghosts: { chase: string; pictures: string[] } | null;
}

const [WIDE, HIGH] = [76, 50];

/** A small picture of a frame, as large as it fits. */
function Small({
  chase,
  of,
  picture,
  dashed,
}: {
  chase: Chase;
  of: string;
  picture: string;
  dashed?: boolean;
}) {
  const scale = Math.min(WIDE / chase.columns, HIGH / chase.rows);
  return (
    <Box
      sx={{
        width: WIDE,
        height: HIGH,
        display: "grid",
        placeItems: "center",
        background: ink.lamp,
        border: dashed ? `1px dashed ${ink.brass}` : 0,
        borderRadius: "2px",
      }}
    >
      <img
        alt=""
        src={pictureUrl(of, picture)}
        width={Math.max(Math.round(chase.columns * scale), 2)}
        height={Math.max(Math.round(chase.rows * scale), 2)}
        style={{ imageRendering: "pixelated", opacity: dashed ? 0.75 : 1 }}
      />
    </Box>
  );
}

/** One frame of the strip: its number, its picture, how it fades in and how long it holds. */
export function FrameCard({ chase, place, frame, here, chosen, now, onChoose, onTime, ghosts }: CardProps) {
  const card = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (here) card.current?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [here]);
  const time = (name: "fade" | "hold") => (
    <Box sx={{ display: "grid", gridTemplateColumns: "26px 1fr", alignItems: "center" }}>
      <Cap>{name}</Cap>
      <Typed
        quiet
        numeric
        label={`${name} of frame ${place + 1}`}
        value={String(round(frame[name], 3))}
        onCommit={(text) => {
          const typed = typedNumber(text);
          if (typed === null) return NO_NUMBER;
          return onTime(name === "fade" ? { fade: typed } : { hold: typed });
        }}
      />
    </Box>
  );
  return (
    <>
      <Box
        ref={card}
        role="group"
        aria-label={`Frame ${place + 1}${now ? ", on the wire" : ""}`}
        sx={{ flex: "none", width: WIDE + 8, borderTop: `3px solid ${now ? ink.sea : "transparent"}` }}
      >
        <Box
          component="button"
          aria-label={here ? `${place + 1} drawn: frame ${place + 1}` : `Draw on frame ${place + 1}`}
          aria-pressed={chosen}
          onClick={onChoose}
          sx={{
            display: "block",
            textAlign: "left",
            font: "inherit",
            fontSize: 12.5,
            color: now && !chosen ? ink.sea : ink.text,
            background: chosen ? ink.brassGround : "none",
            border: `2px solid ${here ? ink.brass : chosen ? ink.brassSoft : "transparent"}`,
            borderRadius: "4px",
            p: "2px",
            cursor: "pointer",
          }}
        >
          {place + 1}
          {here && " drawn"}
          <Small chase={chase} of={chase.id} picture={frame.picture} />
        </Box>
        <Course fade={frame.fade} hold={frame.hold} playing={now !== undefined} />
        {time("fade")}
        {time("hold")}
      </Box>
      {ghosts?.pictures.map((picture, n) => (
        <Box
          // biome-ignore lint/suspicious/noArrayIndexKey: a copy is its place here
          key={n}
          sx={{ flex: "none", pt: "7px", color: ink.brass, fontSize: 12.5 }}
        >
          copy
          <Small chase={chase} of={ghosts.chase} picture={picture} dashed />
        </Box>
      ))}
    </>
  );
}
