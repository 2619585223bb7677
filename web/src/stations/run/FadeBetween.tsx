import { Box } from "@mui/material";
import { Cap } from "../../components/atoms";
import { ink, mono } from "../../theme/tokens";
import type { Cue, Playing } from "./useCueList";

interface FadeProps {
  playing: Playing | undefined;
  coming: Cue | undefined;
  height: number | string;
}

const TALL = 120;

/** What is left of the fade, and how far the coming cue is in: a rising edge between two pictures. */
export function FadeBetween({ playing, coming, height }: FadeProps) {
  const fading = playing !== undefined && playing.fade_left_s > 0;
  const share = playing?.mix.find((one) => one.cue === playing.cue)?.weight ?? 0;
  const rest = playing?.then_left_s ?? null;
  return (
    <Box
      role="group"
      aria-label="Fade"
      sx={{
        position: "relative",
        height,
        width: 86,
        overflow: "hidden",
        background: fading ? ink.row : "none",
      }}
    >
      {fading && (
        <svg
          width="100%"
          height="100%"
          viewBox={`0 0 86 ${TALL}`}
          preserveAspectRatio="none"
          aria-hidden="true"
          style={{ position: "absolute", inset: 0 }}
        >
          <path
            d={`M0 ${TALL}V${TALL - share * TALL * 0.5}L86 ${TALL - share * TALL}V${TALL}Z`}
            fill={ink.brassGround}
          />
          <path
            d={`M0 ${TALL - share * TALL * 0.5}L86 ${TALL - share * TALL}`}
            stroke={ink.brass}
            strokeWidth="3"
            vectorEffect="non-scaling-stroke"
          />
        </svg>
      )}
      <Box sx={{ position: "relative", p: 0.75, textAlign: "right" }}>
        {fading ? (
          <>
            <Box sx={{ font: `500 28px ${mono}`, lineHeight: "32px" }}>{playing.fade_left_s.toFixed(1)}</Box>
            <Cap>s left of {playing.fade_s.toFixed(playing.fade_s < 10 ? 1 : 0)} s</Cap>
            <Box sx={{ mt: 2 }}>
              <Cap>{coming ? `${coming.number} coming` : "letting go"}</Cap>
              <Box sx={{ font: `500 19px ${mono}` }}>
                {Math.round((coming ? share : sumOf(playing)) * 100)} %
              </Box>
            </Box>
            {playing.holds && <Cap sx={{ color: ink.brass, mt: 1 }}>held</Cap>}
          </>
        ) : (
          rest !== null && (
            <>
              <Box sx={{ font: `500 24px ${mono}`, lineHeight: "30px" }}>{spoken(rest)}</Box>
              <Cap>{playing?.letting ? "until it lets go" : "until it goes on"}</Cap>
              {playing?.holds && <Cap sx={{ color: ink.brass, mt: 1 }}>held</Cap>}
            </>
          )
        )}
      </Box>
    </Box>
  );
}

const sumOf = (playing: Playing): number => playing.mix.reduce((sum, one) => sum + one.weight, 0);

/** Seconds below a minute with a tenth, else minutes or hours. */
function spoken(seconds: number): string {
  if (seconds < 60) return `${seconds.toFixed(1)} s`;
  const whole = Math.round(seconds);
  const [hours, minutes] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60];
  if (hours) return `${hours}:${String(minutes).padStart(2, "0")} h`;
  return `${minutes}:${String(whole % 60).padStart(2, "0")}`;
}
