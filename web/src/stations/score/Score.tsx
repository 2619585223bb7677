import { Box, Button } from "@mui/material";
import { useState } from "react";
import type { WholeShow } from "../../api/client";
import { useShownShow } from "../../api/show";
import { Empty, FaultNote, Pane, Scroll } from "../../components/atoms";
import { Loading } from "../../components/Loading";
import type { Score as ScoreData } from "../../model/staff";
import { useView } from "../../stores/view";
import { RunViews } from "../run/RunViews";
import { EntrySide } from "./EntrySide";
import { FillSide } from "./FillSide";
import { ScoreHead } from "./ScoreHead";
import { ScorePage } from "./ScorePage";
import { ScoreSettings } from "./ScoreSettings";
import { useFill } from "./useFill";
import { useNewScore, usePlayed, useScoreEdits, useShownScore } from "./useScore";
import { useScoreKeys } from "./useScoreKeys";

/** Run, Score: a piece of known length, read like a page; the bar being played is a window onto what is sent. */
export function Score() {
  const { data, error } = useShownShow();
  const score = useShownScore(data);
  return (
    <Box
      component="main"
      sx={{
        display: "grid",
        gridTemplateColumns: "minmax(0,1fr) clamp(308px, 27.5vw, 480px)",
        minHeight: 0,
      }}
    >
      {data && score ? (
        <Work key={score.id} show={data} score={score} />
      ) : (
        <>
          <Pane>
            <RunViews at="score" />
            {data ? <NoScore groups={data.groups.length} /> : <Loading error={error} />}
          </Pane>
          <Pane />
        </>
      )}
    </Box>
  );
}

function Work({ show, score }: { show: WholeShow; score: ScoreData }) {
  const edits = useScoreEdits(score.id);
  const played = usePlayed(score.id);
  const [wrong, setWrong] = useState("");
  const fill = useFill(score, edits);
  const entries = useView((view) => view.entries);
  const chosen = score.entries.filter((one) => entries.includes(one.id));
  useScoreKeys({ show, score, edits, running: played?.running === true, fill, onWrong: setWrong });
  return (
    <>
      <Pane>
        <ScoreHead show={show} score={score} edits={edits} played={played} />
        {wrong && (
          <Box sx={{ px: 2 }}>
            <FaultNote what={wrong} />
          </Box>
        )}
        <ScorePage show={show} score={score} edits={edits} played={played} fill={fill} />
      </Pane>
      <Pane>
        <Scroll tabIndex={0} role="group" aria-label="What is written">
          <EntrySide show={show} score={score} entries={chosen} edits={edits} />
          <FillSide show={show} score={score} fill={fill} />
          <ScoreSettings show={show} score={score} edits={edits} />
        </Scroll>
      </Pane>
    </>
  );
}

function NoScore({ groups }: { groups: number }) {
  const add = useNewScore();
  return (
    <Empty title="No score yet">
      A score is a piece of known length in bars: a stave for each group, looks written on them from a beat
      for a length. It runs by the tempo, and Fill writes bars for you.
      {groups ? (
        <Box sx={{ mt: 2 }}>
          <Button color="primary" onClick={() => void add("Midwinter evening")}>
            Make a score
          </Button>
        </Box>
      ) : (
        <Box sx={{ mt: 1 }}>Group fixtures at Rig (key 1) first: each group becomes a stave.</Box>
      )}
    </Empty>
  );
}
