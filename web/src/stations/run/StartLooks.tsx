import { Box, Button } from "@mui/material";
import { memo, useEffect } from "react";
import type { WholeShow } from "../../api/client";
import { Cap, PaneHead } from "../../components/atoms";
import { PreviewCanvas } from "../../components/PreviewCanvas";
import { act } from "../../stores/hands";
import { type EngineState, useLive, watchLooks } from "../../stores/live";
import { ink } from "../../theme/tokens";

const NONE: EngineState["running"] = [];

/** All looks, each started and stopped by hand over whatever runs; each has its place, on or off. */
export const StartLooks = memo(function StartLooks({ show }: { show: WholeShow }) {
  const running = useLive((live) => live.engine?.state.running) ?? NONE;
  const byHand = new Set(running.filter((run) => !run.of).map((run) => run.look));
  const listed = show.looks.map((look) => look.id).join();
  useEffect(() => watchLooks("", listed ? listed.split(",") : []), [listed]);
  useEffect(() => () => watchLooks("", []), []);
  return (
    <Box sx={{ borderTop: `1px solid ${ink.hair}` }}>
      <PaneHead title="Start by hand">
        <Cap>miniatures, not sent</Cap>
      </PaneHead>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 0.75, px: 2, pb: 1.5 }}>
        {show.looks.map((look) => (
          <Button
            key={look.id}
            onClick={() => act(`look/${look.id}/on`, !byHand.has(look.id))}
            title={byHand.has(look.id) ? `Stop ${look.name}` : `Start ${look.name}`}
            aria-label={byHand.has(look.id) ? `Stop ${look.name}` : `Start ${look.name}`}
            sx={{
              p: 0.5,
              gap: 1,
              justifyContent: "flex-start",
              minWidth: 0,
              ...(byHand.has(look.id) ? { background: ink.brassGround, borderColor: ink.brass } : {}),
            }}
          >
            <PreviewCanvas kind="look" id={look.id} label="" width={40} height={20} smooth />
            <Box component="span" sx={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>
              {look.name}
            </Box>
          </Button>
        ))}
      </Box>
      {!show.looks.length && <Cap sx={{ px: 2, pb: 1.5 }}>There is no look yet: key 4.</Cap>}
    </Box>
  );
});
