import { Box, Button } from "@mui/material";
import { memo, useState } from "react";
import type { WholeShow } from "../../api/client";
import { Cap, Num, PaneHead } from "../../components/atoms";
import { LevelSlider } from "../../components/LevelSlider";
import { act, move } from "../../stores/hands";
import { type EngineState, useLive } from "../../stores/live";
import { ink, mono } from "../../theme/tokens";

type Run = EngineState["running"][number];
const NONE: Run[] = [];

/** Every look that plays, whose it is, how much of it arrives; and of one, every level between it and a lamp. */
export const RunningLooks = memo(function RunningLooks({ show }: { show: WholeShow }) {
  const running = useLive((live) => live.engine?.state.running) ?? NONE;
  const [open, setOpen] = useState("");
  const names = new Map(show.looks.map((one) => [one.id, one.name]));
  const fading = running.filter((one) => one.trend !== "steady").length;
  return (
    <Box role="group" aria-label="Running looks">
      <PaneHead title="Running looks">
        <Cap>
          {running.length} on{fading > 0 && `, ${fading} in a fade`}
        </Cap>
      </PaneHead>
      {!running.length && <Cap sx={{ px: 2, pb: 1.5, fontSize: 13 }}>Nothing runs.</Cap>}
      {running.map((one) => (
        <Row
          key={one.run}
          run={one}
          name={names.get(one.look) ?? "a look that is gone"}
          said={saidBy(show, one)}
          open={open === one.run}
          onOpen={() => setOpen(open === one.run ? "" : one.run)}
        />
      ))}
    </Box>
  );
});

interface RowProps {
  run: Run;
  name: string;
  said: string;
  open: boolean;
  onOpen: () => void;
}

function Row({ run, name, said, open, onOpen }: RowProps) {
  const arrives = run.factors.reduce((product, one) => product * one.level, 1);
  return (
    <Box
      role="group"
      aria-label={`${name}, on`}
      sx={{
        background: open ? ink.brassGround : "none",
        boxShadow: open ? `inset 3px 0 ${ink.brass}` : "none",
        "&:hover": { background: open ? ink.brassGround : ink.row },
      }}
    >
      <Box
        component="button"
        aria-expanded={open}
        title={`Where the level of ${name} comes from`}
        onClick={onOpen}
        sx={{
          display: "grid",
          gridTemplateColumns: "16px minmax(0,1fr) auto 52px 34px",
          gap: 1,
          alignItems: "center",
          width: "100%",
          px: 2,
          py: 0.75,
          border: 0,
          font: "inherit",
          textAlign: "left",
          color: ink.text,
          background: "none",
          cursor: "pointer",
        }}
      >
        <Arrow trend={run.trend} />
        <span style={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>{name}</span>
        <Cap>{said}</Cap>
        <Num style={{ textAlign: "right", fontWeight: 600 }}>{Math.round(arrives * 100)} %</Num>
        <Num style={{ textAlign: "right", color: ink.soft }}>{Math.round(arrives * 255)}</Num>
      </Box>
      {(open || !run.of) && (
        <Box sx={{ px: 2, pb: 1.25 }}>
          {open && (
            <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "flex-start", columnGap: 0.75, mb: 1 }}>
              {run.factors.map((one, n) => (
                <Box key={one.name} sx={{ display: "flex", gap: 0.75 }}>
                  {n > 0 && <span style={{ font: `500 16px ${mono}`, color: ink.soft }}>×</span>}
                  <Factor name={one.name} level={one.level} />
                </Box>
              ))}
              <Box sx={{ ml: "auto", display: "flex", gap: 0.75 }}>
                <span style={{ font: `500 16px ${mono}`, color: ink.soft }}>=</span>
                <Factor name="arrives" level={arrives} />
              </Box>
            </Box>
          )}
          <LevelSlider
            of={name}
            level={run.level}
            onLevel={(level) => move(`look/${run.look}/level`, level)}
          />
          {!run.of && (
            <Button sx={{ mt: 0.5 }} onClick={() => act(`look/${run.look}/on`, false)}>
              Stop
            </Button>
          )}
        </Box>
      )}
    </Box>
  );
}

function Factor({ name, level }: { name: string; level: number }) {
  return (
    <Box sx={{ textAlign: "right" }}>
      <Box sx={{ font: `500 16px ${mono}` }}>{Math.round(level * 100)} %</Box>
      <Cap>{name}</Cap>
    </Box>
  );
}

type Trend = Run["trend"];

const ARROWS: Record<Trend, string> = {
  coming: "M3 12 12 3M6 3h6v6",
  steady: "M2 7.5h11",
  leaving: "M3 3l9 9M6 12h6V6",
};

function Arrow({ trend: which }: { trend: Trend }) {
  return (
    <svg width="15" height="15" viewBox="0 0 15 15" role="img" aria-label={which}>
      <path
        d={ARROWS[which]}
        fill="none"
        stroke={which === "steady" ? ink.sea : ink.brass}
        strokeWidth="1.8"
      />
    </svg>
  );
}

/** `25 s`, `6 min`, `2 h 10 min`. */
function saidLong(seconds: number): string {
  if (seconds < 60) return `${Math.floor(seconds)} s`;
  const minutes = Math.floor(seconds / 60);
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

/** By which cue of which list, or by hand since when. */
function saidBy(show: WholeShow, run: Run): string {
  if (!run.of) return `by hand, ${saidLong(run.since_s)}`;
  const score = show.scores.find((one) => one.id === run.of);
  if (score)
    return `from ${score.entries.find((one) => one.id === run.cue)?.begins ?? "a bar"} of ${score.name}`;
  const list = show.cue_lists.find((one) => one.id === run.of);
  const cue = list?.cues.find((one) => one.id === run.cue);
  return `${cue ? `cue ${cue.number}` : "a cue that is gone"}${list?.main ? "" : ` of ${list?.name ?? "a list"}`}, ${run.trend}`;
}
