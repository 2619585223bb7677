import { Box, Button, MenuItem, Select } from "@mui/material";
import { useState } from "react";
import { client, type WholeShow } from "../api/client";
import { useShow } from "../api/show";
import { Cap, FaultNote, Num, Unseen } from "../components/atoms";
import { Loading } from "../components/Loading";
import { Mark } from "../components/Mark";
import { MARKS, WAYS, type WalkBy, type WalkView } from "../model/walks";
import { Asked } from "../stations/check/walk/Asked";
import { LampsMap } from "../stations/check/walk/LampsMap";
import { MarkSign } from "../stations/check/walk/MarkSign";
import { change, doing, go, press, stop, useAsking, useWalk } from "../stations/check/walk/useWalk";
import { useLive } from "../stores/live";
import { urge } from "../stores/urgent";
import { ink } from "../theme/tokens";

const LARGE = { height: 60, fontSize: 18, borderRadius: "10px" } as const;

/** The walk for the person at the lamp: large keys in reach of a thumb, the lamp's name in large type above. */
export function Phone() {
  const { data, error } = useShow();
  const walk = useWalk();
  const connected = useLive((live) => live.connected);
  if (!data || !walk) return <Loading error={error} />;
  return (
    <Box
      component="main"
      sx={{
        height: "100dvh",
        display: "flex",
        flexDirection: "column",
        px: 2,
        pb: 2,
        maxWidth: 520,
        mx: "auto",
      }}
    >
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, height: 48, flex: "none" }}>
        <Mark />
        <Unseen as="h1">Test walk</Unseen>
        <Box sx={{ fontWeight: 600, overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>
          {data.show.name}
        </Box>
        <Box sx={{ ml: "auto" }}>
          {walk.running ? (
            <Button sx={{ height: 40 }} onClick={() => void stop()}>
              End walk
            </Button>
          ) : (
            <Cap>{connected ? "ready" : "no connection"}</Cap>
          )}
        </Box>
      </Box>
      {!connected && <FaultNote what="The connection is away; what you see may be old." />}
      {walk.running ? <Walking show={data} walk={walk} /> : <Beginning show={data} />}
    </Box>
  );
}

function Beginning({ show }: { show: WholeShow }) {
  const [over, setOver] = useState(show.matrices[0]?.id ?? "");
  const begin = (by: WalkBy) =>
    doing(
      client.POST("/api/walk", {
        body: {
          by,
          ...(over ? { matrix: over } : {}),
          selection: "all",
          emitter: "",
          level: 1,
          alone: true,
          seconds: by === "line" ? 0.25 : 0,
        },
      }),
    );
  return (
    <>
      <Box sx={{ flex: 1 }}>
        <Box sx={{ fontSize: 24, fontWeight: 620, mt: 2, mb: 1 }}>Test walk</Box>
        <Box sx={{ color: ink.soft, mb: 2 }}>
          Lights one after another; everything else stays dark until you end it.
        </Box>
        <Select
          fullWidth
          value={over}
          displayEmpty
          inputProps={{ "aria-label": "Walk over" }}
          sx={{ height: 52, fontSize: 17 }}
          onChange={(event) => setOver(event.target.value)}
        >
          <MenuItem value="">all lamps</MenuItem>
          {show.matrices.map((one) => (
            <MenuItem key={one.id} value={one.id}>
              {one.name}
            </MenuItem>
          ))}
        </Select>
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
        {WAYS.map(([by, word]) => (
          <Button key={by} sx={{ ...LARGE, height: 56, fontSize: 16 }} onClick={() => void begin(by)}>
            {word}
          </Button>
        ))}
      </Box>
    </>
  );
}

function Walking({ show, walk }: { show: WholeShow; walk: WalkView }) {
  const ask = useAsking((asking) => asking.ask);
  const [missing, setMissing] = useState("");
  const matrix = show.matrices.find((one) => one.id === walk.matrix);
  return (
    <>
      <Box
        role="status"
        aria-label="Lit now"
        sx={{ fontSize: 40, fontWeight: 640, lineHeight: "46px", overflowWrap: "anywhere" }}
      >
        {walk.label}
      </Box>
      <Box sx={{ display: "flex", fontSize: 17, color: ink.soft, mb: 1 }}>
        <span>
          <Num>{walk.index + 1}</Num> of <Num>{walk.count}</Num>, {walk.over}
        </span>
        <Num style={{ marginLeft: "auto", color: ink.text }}>{walk.place}</Num>
      </Box>
      {walk.blackout && (
        <Button sx={{ ...LARGE, color: ink.brass }} onClick={() => urge("blackout", false)}>
          Blackout is on: switch it off
        </Button>
      )}
      {matrix ? (
        <LampsMap show={show} matrix={matrix} walk={walk} largest={64} />
      ) : (
        <Box sx={{ flex: 1, color: ink.soft }}>
          before: {walk.before}
          <br />
          then: {walk.after}
        </Box>
      )}
      {missing && <FaultNote what={missing} />}
      {ask ? (
        <Asked show={show} walk={walk} large />
      ) : (
        <>
          <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, my: 1 }}>
            {MARKS.map(({ kind }) => (
              <Button
                key={kind}
                sx={{ ...LARGE, gap: 1, justifyContent: "flex-start", pl: 2 }}
                onClick={() => void press(walk, show, kind).then(setMissing)}
              >
                <MarkSign kind={kind} size={24} /> {kind}
              </Button>
            ))}
          </Box>
          <Box
            sx={{ display: "grid", gridTemplateColumns: walk.seconds ? "1fr 1fr 2fr" : "1fr 2fr", gap: 1 }}
          >
            <Button sx={LARGE} onClick={() => void go({ by: -1 })}>
              ← Back
            </Button>
            {walk.seconds > 0 && (
              <Button sx={LARGE} aria-pressed={walk.hold} onClick={() => void change({ hold: !walk.hold })}>
                {walk.hold ? "Go on" : "Hold"}
              </Button>
            )}
            <Button color="primary" sx={LARGE} onClick={() => void go({ by: 1 })}>
              Next →
            </Button>
          </Box>
        </>
      )}
    </>
  );
}
