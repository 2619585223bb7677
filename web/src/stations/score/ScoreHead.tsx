import { Box, Button } from "@mui/material";
import { memo } from "react";
import type { WholeShow } from "../../api/client";
import { Cap, KeyCap, Num } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import type { Score } from "../../model/staff";
import type { PlayingScore } from "../../stores/live";
import { useView } from "../../stores/view";
import { ink, mono } from "../../theme/tokens";
import { RunViews } from "../run/RunViews";
import { pressScore, type ScoreEdits } from "./useScore";

interface HeadProps {
  show: WholeShow;
  score: Score;
  edits: ScoreEdits;
  played: PlayingScore | undefined;
}

/** The title like that of a sheet; where it is, and what starts, holds and lets go. */
export const ScoreHead = memo(function ScoreHead({ show, score, edits, played }: HeadProps) {
  const running = played?.running === true;
  return (
    <Box
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 1.5,
        pr: 2,
        minHeight: 56,
        borderBottom: `1px solid ${ink.hair}`,
      }}
    >
      <RunViews at="score" />
      <Box sx={{ flex: 1, minWidth: 0, textAlign: "center" }}>
        <Box
          sx={{
            maxWidth: 300,
            mx: "auto",
            "& input": { fontSize: 20, fontWeight: 650, textAlign: "center", height: 28 },
          }}
        >
          {show.scores.length > 1 ? (
            <Chooser show={show} score={score} />
          ) : (
            <Typed
              quiet
              label="Name of the score"
              value={score.name}
              onCommit={(name) => edits.change({ name })}
            />
          )}
        </Box>
        <Cap sx={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>
          {score.bars} bars of {score.bar_beats}, {clock(played?.length_s ?? 0)}
          {running && "; the framed bar is sent"}
        </Cap>
      </Box>
      <Box
        sx={{
          width: 12,
          height: 12,
          borderRadius: 6,
          background: running && !played.holds ? ink.brass : "none",
          border: `1.5px solid ${running ? ink.brass : ink.hair2}`,
        }}
      />
      <Box sx={{ width: 70, "& input": { font: `500 20px ${mono}`, height: 34, textAlign: "center" } }}>
        <Typed
          numeric
          moves
          label="Bar and beat to go on from"
          value={running ? played.at : "1.1"}
          onCommit={edits.locate}
        />
      </Box>
      <Cap sx={{ width: 84, whiteSpace: "nowrap" }}>
        {running ? (
          <>
            <Num>{clock(played.length_s - played.left_s)}</Num>
            <br />
            <Num>{played.left_s.toFixed(1)} s left</Num>
          </>
        ) : (
          "stands"
        )}
      </Cap>
      {running ? (
        <>
          <Button aria-pressed={played.holds} onClick={() => pressScore(score.id, "hold")}>
            {played.holds ? "Go on" : "Hold"}&nbsp;<KeyCap>H</KeyCap>
          </Button>
          <Button onClick={() => pressScore(score.id, "release")}>
            Release&nbsp;<KeyCap>R</KeyCap>
          </Button>
        </>
      ) : (
        <Button color="primary" variant="outlined" onClick={() => pressScore(score.id, "start")}>
          Start&nbsp;<KeyCap>P</KeyCap>
        </Button>
      )}
    </Box>
  );
});

function Chooser({ show, score }: { show: WholeShow; score: Score }) {
  return (
    <Box
      component="select"
      aria-label="Score"
      value={score.id}
      onChange={(event: React.ChangeEvent<HTMLSelectElement>) =>
        useView.setState({ score: event.target.value, entries: [], stave: "" })
      }
      sx={{
        font: "inherit",
        fontSize: 18,
        fontWeight: 650,
        color: ink.text,
        background: "none",
        border: 0,
        maxWidth: "100%",
        "& option": { background: ink.panel, fontSize: 14 },
      }}
    >
      {show.scores.map((one) => (
        <option key={one.id} value={one.id}>
          {one.name}
        </option>
      ))}
    </Box>
  );
}

/** Minutes and seconds. */
function clock(seconds: number): string {
  const rest = seconds % 60;
  return `${Math.floor(seconds / 60)}:${rest < 9.95 ? "0" : ""}${rest.toFixed(1)}`;
}
