import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { plainLayout } from "../../canvas/levelLayout";
import { paint } from "../../canvas/levelPainter";
import { Cap, Empty, Num, Scroll } from "../../components/atoms";
import type { Base } from "../../model/why";
import { type HeardStream, useLive } from "../../stores/live";
import { ink } from "../../theme/tokens";

const AGAIN_MS = 250;
const NOBODY: HeardStream[] = [];
const LAYOUT = plainLayout();
const NO_MARKS = new Map<number, string>();

type Protocol = "artnet" | "sacn";
type Received = Schemas["ReceivedUniverse"];

const say = (protocol: string, number: number) => `${protocol === "sacn" ? "sACN" : "Art-Net"} ${number}`;

/** What other devices send to this machine: the values that count, and who sends them. */
export function ReceivedMap({ base }: { base: Base }) {
  const streams = useLive((live) => live.receiver?.streams ?? NOBODY);
  const [chosen, setChosen] = useState<string | null>(null);
  const keys = [...new Set(streams.map((one) => `${one.protocol} ${one.number}`))];
  const key = chosen && keys.includes(chosen) ? chosen : (keys[0] ?? "");
  const [protocol = "", number = "0"] = key.split(" ");
  const { data } = useQuery<Received[]>({
    queryKey: ["received", key],
    queryFn: async () => {
      const query = { protocol: protocol as Protocol, number: Number(number) };
      return (await answer(client.GET("/api/received", { params: { query } }))) as Received[];
    },
    enabled: key !== "",
    refetchInterval: AGAIN_MS,
  });
  const canvas = useRef<HTMLCanvasElement>(null);
  const changed = useRef({
    of: "",
    values: new Uint8Array(512),
    at: new Float64Array(512).fill(Number.NEGATIVE_INFINITY),
  });
  const values = data?.[0]?.values;
  useEffect(() => {
    const seen = changed.current;
    const now = performance.now();
    for (let n = 0; n < 512; n++) {
      const value = values?.[n] ?? 0;
      if (seen.values[n] !== value && seen.of === key) seen.at[n] = now;
      seen.values[n] = value;
    }
    seen.of = key;
    paint({
      canvas: canvas.current,
      layout: LAYOUT,
      marks: NO_MARKS,
      values: seen.values,
      owners: new Map(),
      channel: 0,
      base,
      changed: seen.at,
    });
  }, [values, base, key]);
  if (!keys.length)
    return (
      <Empty title="Nothing is received">
        No other device sends Art-Net to this machine, or sACN to it or to the groups of our universes. What
        arrives shows here with its senders.
      </Empty>
    );
  const senders = streams.filter((one) => `${one.protocol} ${one.number}` === key);
  return (
    <>
      <Box
        sx={{ px: 2, pb: 1, display: "flex", gap: 0.5, flexWrap: "wrap", maxHeight: 62, overflowY: "auto" }}
      >
        {keys.slice(0, 128).map((one) => {
          const [kind = "", n = ""] = one.split(" ");
          return (
            <Button
              key={one}
              aria-pressed={one === key}
              color={one === key ? "primary" : "inherit"}
              onClick={() => setChosen(one)}
            >
              {say(kind, Number(n))}
            </Button>
          );
        })}
      </Box>
      <Scroll sx={{ px: 2 }}>
        <canvas
          ref={canvas}
          role="img"
          aria-label={`Received values of ${say(protocol, Number(number))}`}
          style={{ width: LAYOUT.width, height: LAYOUT.height, display: "block" }}
        />
      </Scroll>
      <Box
        role="status"
        aria-label="Senders"
        sx={{
          borderTop: `1px solid ${ink.hair}`,
          px: 2,
          py: 1,
          fontSize: 13,
          maxHeight: 120,
          overflowY: "auto",
        }}
      >
        {senders.map((one) => (
          <Box key={one.sender} sx={{ display: "flex", gap: 1.5, alignItems: "baseline" }}>
            <b style={{ fontWeight: 600 }}>{one.name || "without a name"}</b>
            <Num>{one.ip}</Num>
            <span style={{ color: one.counts ? ink.sea : ink.soft }}>
              {one.counts ? "counts" : "is not taken"}
            </span>
            <Cap>
              priority <Num>{one.priority}</Num>, <Num>{one.rate.toFixed(1)}</Num> a second,{" "}
              <Num>{one.lost}</Num> lost, <Num>{one.late}</Num> late
            </Cap>
          </Box>
        ))}
      </Box>
    </>
  );
}
