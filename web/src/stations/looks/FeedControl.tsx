import { Box } from "@mui/material";
import { Cap, FaultNote } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { Typed } from "../../components/Typed";
import type { FeedLine } from "../../model/lines";
import { round } from "../../model/values";
import { useLive } from "../../stores/live";
import { ink } from "../../theme/tokens";
import type { LineEdits } from "./useLineEdits";

export const LOST_SAYS = { hold: "its last picture", black: "black", clear: "nothing" } as const;

/** Where a live picture comes from, and what is shown once nothing comes any more. */
export function FeedControl({ line, edits }: { line: FeedLine; edits: LineEdits }) {
  return (
    <Box sx={{ display: "grid", gap: 1 }}>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
        <Cap>comes from</Cap>
        <Typed
          width={330}
          label="Address of the live picture"
          value={line.address}
          onCommit={(address) => edits.type({ address })}
        />
      </Box>
      <Cap>
        udp:// or rtp:// with a port (transport stream), rtsp://, http:// (MJPEG), v4l2:/dev/video0, clip:3 (a
        clip by its number, in a loop), artnet:0 or sacn:101 (incoming universes from that number on, as they
        lie on this matrix). To try it: ./heliograph standin camera
      </Cap>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
        <Cap>when nothing comes any more it shows</Cap>
        <Choices
          names={[
            ["hold", LOST_SAYS.hold],
            ["black", LOST_SAYS.black],
            ["clear", "what lies beneath"],
          ]}
          chosen={line.lost}
          onChoose={(lost) => edits.commit({ lost })}
        />
      </Box>
    </Box>
  );
}

/** Whether it comes: its size, how many pictures a second, how old the newest is. */
export function FeedState({ address }: { address: string }) {
  const work = useLive((live) => live.media?.feeds.find((one) => one.address === address));
  if (!work) return null;
  if (!work.lost && !work.fault)
    return (
      <Box role="status" sx={{ fontSize: 13, lineHeight: "20px", color: ink.sea }}>
        {work.size}
        {work.rate > 0 && `, ${round(work.rate, 0)} pictures a second`}, the newest{" "}
        {Math.round(work.age_s * 1000)} ms old
      </Box>
    );
  const ago = work.age_s < 0 ? "No picture has come yet." : `No picture for ${Math.round(work.age_s)} s.`;
  return <FaultNote what={ago} repair={work.fault} />;
}
