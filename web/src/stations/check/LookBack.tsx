import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client, type Fault, isFault, type Schemas } from "../../api/client";
import { Cap, FaultNote, Num } from "../../components/atoms";
import { Range } from "../../components/Range";
import { lookBack, now, useBack } from "../../stores/back";
import { ink } from "../../theme/tokens";

const AGAIN_MS = 2000;

/** "12.3 s", "2 min 5 s". */
export function sayAgo(seconds: number): string {
  if (seconds < 60) return `${seconds.toFixed(seconds < 10 ? 2 : 1)} s`;
  return `${Math.floor(seconds / 60)} min ${Math.round(seconds % 60)} s`;
}

/** The last minutes of what was sent: any moment is shown in place of now, and can be asked why. */
export function LookBack({ matrix, universe }: { matrix: string; universe: number }) {
  const moment = useBack((back) => back.moment);
  const [dragged, setDragged] = useState<number | null>(null);
  const [fault, setFault] = useState<Fault | null>(null);
  const { data } = useQuery<Schemas["KeptFrames"], Fault>({
    queryKey: ["back"],
    queryFn: async () => (await answer(client.GET("/api/back"))) as Schemas["KeptFrames"],
    refetchInterval: AGAIN_MS,
  });
  const go = (to: { frame: number; after?: boolean } | { ago_s: number }) => {
    setFault(null);
    lookBack(to, matrix, universe).catch((wrong) => {
      if (!isFault(wrong)) throw wrong;
      setFault(wrong);
    });
  };
  const frame = moment?.frame ?? 0;
  // biome-ignore lint/correctness/useExhaustiveDependencies: another matrix or universe of the same moment
  useEffect(() => {
    if (frame) go({ frame });
  }, [matrix, universe]);
  const most = Math.max(1, data?.seconds ?? 1);
  const ago = dragged ?? moment?.ago_s ?? 0;
  return (
    <Box
      role="group"
      aria-label="Look back"
      sx={{
        borderTop: `1px solid ${moment ? ink.brassSoft : ink.hair}`,
        background: moment ? ink.brassGround : "none",
        px: 2,
        py: 0.5,
      }}
    >
      <Box sx={{ display: "grid", gridTemplateColumns: "196px 1fr auto", gap: 1.5, alignItems: "center" }}>
        <Cap sx={{ color: moment ? ink.brass : ink.soft, fontSize: 13 }}>
          {moment ? (
            <>
              not now: {sayAgo(moment.ago_s)} ago, <Num>{moment.frame}</Num>
              {!moment.exact && ", show not kept"}
            </>
          ) : data?.frames ? (
            `look back, kept for ${sayAgo(most)}`
          ) : (
            "look back: nothing kept yet"
          )}
        </Cap>
        <Range
          label="Seconds ago"
          track={ink.hair2}
          min={-most}
          max={0}
          step={0.02}
          value={-Math.min(ago, most)}
          onMove={(value) => {
            setDragged(-value);
            if (-value < 0.05) now();
            else go({ ago_s: -value });
          }}
          onCommit={() => setDragged(null)}
        />
        <Box sx={{ display: "flex", gap: 0.5, alignItems: "center" }}>
          <Button aria-label="Frame before" onClick={() => go({ frame: (frame || (data?.last ?? 1)) - 1 })}>
            ‹
          </Button>
          <Button
            aria-label="Next frame"
            disabled={!moment}
            onClick={() => go({ frame: frame + 1, after: true })}
          >
            ›
          </Button>
          <Button color={moment ? "primary" : "inherit"} disabled={!moment} onClick={now}>
            Now
          </Button>
        </Box>
      </Box>
      {fault && <FaultNote what={fault.what} repair={fault.repair} />}
    </Box>
  );
}
