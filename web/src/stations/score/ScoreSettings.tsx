import { Box, Button } from "@mui/material";
import type { WholeShow } from "../../api/client";
import { Cap, Chip, Part } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { useSure } from "../../components/useSure";
import type { Score } from "../../model/staff";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { type ScoreEdits, useNewScore } from "./useScore";

/** Of the whole score: its length, rounds, staves, words over a bar. */
export function ScoreSettings({ show, score, edits }: { show: WholeShow; score: Score; edits: ScoreEdits }) {
  const sure = useSure("Delete it");
  const add = useNewScore();
  const place = useView((view) => view.place);
  const bar = Number.parseInt(place, 10) || 1;
  const groups = score.staves.map((one) => one.group);
  const turn = (group: string) =>
    void edits.change({
      groups: groups.includes(group)
        ? groups.filter((one) => one !== group)
        : [...groups.filter(Boolean), group],
    });
  const number = (text: string, send: (value: number) => Promise<string>, least: number) => {
    const value = Number(text);
    return Number.isInteger(value) && value >= least ? send(value) : `Type a whole number from ${least}.`;
  };
  return (
    <Part role="group" aria-label="Of the score">
      <Box sx={{ display: "grid", gridTemplateColumns: "64px 1fr 64px 1fr", gap: 1, alignItems: "center" }}>
        <Cap>name</Cap>
        <Box sx={{ gridColumn: "2 / 5" }}>
          <Typed label="Score's name" value={score.name} onCommit={(name) => edits.change({ name })} />
        </Box>
        <Cap>bars</Cap>
        <Typed
          numeric
          label="Bars of the score"
          value={String(score.bars)}
          onCommit={(text) => number(text, (bars) => edits.change({ bars }), 1)}
        />
        <Cap>rounds</Cap>
        <Typed
          numeric
          label="Rounds of the score, 0 without end"
          value={score.rounds ? String(score.rounds) : "endless"}
          onCommit={(text) =>
            text === "endless"
              ? edits.change({ rounds: 0 })
              : number(text, (rounds) => edits.change({ rounds }), 0)
          }
        />
        <Cap>lets go in</Cap>
        <Typed
          numeric
          label="How long letting go takes"
          value={score.release}
          onCommit={(release) => edits.change({ release })}
        />
        <Cap>priority</Cap>
        <Typed
          numeric
          label="Priority of the score"
          value={String(score.priority)}
          onCommit={(text) => number(text, (priority) => edits.change({ priority }), 0)}
        />
        <Cap>over bar {bar}</Cap>
        <Box sx={{ gridColumn: "2 / 5" }}>
          <Typed
            label={`Words over bar ${bar}`}
            placeholder="choir walks in"
            value={score.notes.find((one) => one.bar === bar)?.text ?? ""}
            onCommit={(note) => edits.change({ bar, note })}
          />
        </Box>
      </Box>
      <Cap sx={{ mt: 1.25, mb: 0.5 }}>staves</Cap>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.5 }}>
        {show.groups.map((one) => (
          <Chip
            key={one.id}
            active={groups.includes(one.id)}
            aria-pressed={groups.includes(one.id)}
            title={
              groups.includes(one.id) ? `Take away the stave of ${one.name}, with what is written on it` : ""
            }
            onClick={() => turn(one.id)}
          >
            {one.name}
          </Chip>
        ))}
      </Box>
      <Box sx={{ display: "flex", gap: 1, mt: 1.5 }}>
        <Button onClick={() => void add(`Score ${show.scores.length + 1}`)}>New score</Button>
        <Button
          sx={{ color: ink.soft }}
          onClick={(event) =>
            void sure.ask(event.currentTarget, "score", score.id, () => {
              useView.setState({ score: null, entries: [] });
              return edits.remove();
            })
          }
        >
          Delete this one
        </Button>
        {sure.panel}
      </Box>
    </Part>
  );
}
