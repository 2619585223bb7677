import { Box } from "@mui/material";
import { Cap, Num } from "../../../components/atoms";
import { ink } from "../../../theme/tokens";
import type { Motion } from "./useMotion";

/** How fast the heads go round, and which come to the end of what they can turn. */
export function MotionSaid({ motion }: { motion: Motion }) {
  const going = motion.heads.filter((one) => one.speed > 0);
  const fastest = going.reduce((most, one) => (one.speed > most.speed ? one : most), going[0] ?? NOBODY);
  const stopped = going.filter((one) => one.stopped.length);
  if (!going.length) return null;
  return (
    <Box role="note" aria-label="Motion" sx={{ px: 2, py: 0.75 }}>
      <Cap>
        {going.length} of {motion.heads.length} heads move, a round in{" "}
        <Num>{motion.seconds.toFixed(1)} s</Num>; the most is asked of {fastest.number}:{" "}
        <Num>
          {fastest.speed.toFixed(0)}
          {fastest.in_degrees ? "°" : ""}
        </Num>{" "}
        a second.
        {stopped.length > 0 && (
          <Box component="span" sx={{ color: ink.coral, ml: 0.75 }}>
            {stopped
              .slice(0, 6)
              .map(
                (one) => `${one.number} comes to the end of its ${one.stopped.join(" and ").toLowerCase()}`,
              )
              .join("; ")}
            .
          </Box>
        )}
      </Cap>
    </Box>
  );
}

const NOBODY = { number: 0, speed: 0, in_degrees: true };
