import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client, type Fault, isFault, type Schemas } from "../../api/client";
import { Cap, FaultNote, Num } from "../../components/atoms";
import { Range } from "../../components/Range";
import { Typed } from "../../components/Typed";
import { lookBack, now, useBack } from "../../stores/back";
import { ink } from "../../theme/tokens";

const AGAIN_MS = 2000;

/** "12.3 s", "2 min 5 s". */
export function sayAgo(seconds: number): string {
  if (seconds < 60) return `${seconds.toFixed(seconds < 10 ? 2 : 1)} s`;
  return `${Math.floor(seconds / 60)} min ${Math.round(seconds % 60)} s`;
}

/** "1:05", "0:12.3". */
const sayClock = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${(seconds % 60).toFixed(1).padStart(4, "0")}`;

/** "1:00", "90", "12.5 s", "2 min" as seconds; null for what is none of them. */
export function readAgo(text: string): number | null {
  const match = /^\s*(?:(\d{1,3}):)?(\d{1,4}(?:[.,]\d+)?)\s*(s|min)?(?:\s*ago)?\s*$/i.exec(text);
  if (!match || (match[1] && match[3])) return null;
  const value = Number((match[2] ?? "").replace(",", "."));
  return match[1] ? Number(match[1]) * 60 + value : match[3]?.toLowerCase() === "min" ? value * 60 : value;
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
      <Box
        sx={{ display: "grid", gridTemplateColumns: "196px 88px 1fr auto", gap: 1.5, alignItems: "center" }}
      >
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
        <Typed
          numeric
          label="How long ago, typed"
          value={moment ? sayClock(moment.ago_s) : ""}
          placeholder="1:00 ago"
          onCommit={(text) => {
            const seconds = readAgo(text);
            if (seconds === null) return "Minutes and seconds, such as 1:00, or seconds.";
            if (seconds > most) return `${sayAgo(most)} are kept.`;
            return seconds > 0 ? go({ ago_s: seconds }) : now();
          }}
        />
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
