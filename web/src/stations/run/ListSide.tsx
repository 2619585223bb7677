import { Box, Button } from "@mui/material";
import { memo, useState } from "react";
import type { WholeShow } from "../../api/client";
import { Cap, PaneHead } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { LevelSlider } from "../../components/LevelSlider";
import { Typed } from "../../components/Typed";
import { useSure } from "../../components/useSure";
import { move } from "../../stores/hands";
import { useLive } from "../../stores/live";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { type CueEdits, type CueList, useNewList } from "./useCueList";

/** All lists of the show with what each does now, and how the shown one goes. */
export const ListSide = memo(function ListSide({
  show,
  list,
  edits,
}: {
  show: WholeShow;
  list: CueList;
  edits: CueEdits;
}) {
  const playing = useLive((live) => live.engine?.state.lists);
  const [open, setOpen] = useState(false);
  const add = useNewList();
  const own = playing?.find((one) => one.of === list.id);
  return (
    <Box role="group" aria-label="Lists">
      <PaneHead title="Lists">
        <Button variant="text" onClick={() => void add(`List ${show.cue_lists.length + 1}`)}>
          New
        </Button>
      </PaneHead>
      {show.cue_lists.map((one) => {
        const run = playing?.find((each) => each.of === one.id);
        const cue = one.cues.find((each) => each.id === run?.cue);
        const here = one.id === list.id;
        return (
          <Box
            key={one.id}
            component="button"
            aria-pressed={here}
            onClick={() => useView.setState({ list: one.id, cues: [] })}
            sx={{
              display: "flex",
              width: "100%",
              gap: 1,
              px: 2,
              py: 0.75,
              border: 0,
              font: "inherit",
              textAlign: "left",
              color: ink.text,
              background: here ? ink.brassGround : "none",
              boxShadow: here ? `inset 3px 0 ${ink.brass}` : "none",
              cursor: "pointer",
              "&:hover": { background: here ? ink.brassGround : ink.row },
            }}
          >
            <span style={{ color: run ? ink.sea : ink.faint }}>{run ? "●" : "○"}</span>
            <span
              title={one.name}
              style={{ flex: 1, overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}
            >
              {one.name}
            </span>
            <Cap>{cue ? cue.number : one.main ? "main" : ""}</Cap>
          </Box>
        );
      })}
      <Box sx={{ px: 2, py: 1 }}>
        {own && (
          <LevelSlider
            narrow
            of={list.name}
            level={own.level}
            onLevel={(level) => move(`list/${list.id}/level`, level)}
          />
        )}
        <Button variant="text" sx={{ px: 0 }} aria-expanded={open} onClick={() => setOpen(!open)}>
          How it goes {open ? "▴" : "▾"}
        </Button>
        {open && <HowItGoes list={list} edits={edits} />}
      </Box>
    </Box>
  );
});

const ORDERS = [
  ["along", "along"],
  ["turns", "there and back"],
  ["dealt", "dealt"],
] as const;
const WAYS = [
  ["fade", "fade"],
  ["at once", "at once"],
  ["bar", "at the bar"],
  ["clip", "clip ends"],
] as const;

function HowItGoes({ list, edits }: { list: CueList; edits: CueEdits }) {
  const sure = useSure("Delete it");
  const number = (text: string, what: string) => {
    const value = Number.parseInt(text, 10);
    return Number.isInteger(value) ? value : `Type ${what} as a whole number.`;
  };
  return (
    <Box sx={{ display: "grid", gap: 1, pt: 0.75 }}>
      <Choices
        names={ORDERS.map(([key, word]) => [key, word])}
        chosen={list.order}
        onChoose={(order) => void edits.change({ order })}
      />
      <Row cap="rounds">
        <Typed
          label="Rounds of the list"
          value={list.rounds ? String(list.rounds) : "endless"}
          onCommit={(text) => {
            const rounds = /^(endless|0)$/.test(text.trim()) ? 0 : number(text, "rounds");
            return typeof rounds === "string" ? rounds : edits.change({ rounds });
          }}
        />
      </Row>
      <Row cap="priority">
        <Typed
          numeric
          label="Priority of the list"
          value={String(list.priority)}
          onCommit={(text) => {
            const priority = number(text, "a priority");
            return typeof priority === "string" ? priority : edits.change({ priority });
          }}
        />
      </Row>
      <Cap>lets go</Cap>
      <Choices
        names={WAYS.map(([key, word]) => [key, word])}
        chosen={list.letting_go}
        onChoose={(letting_go) => void edits.change({ letting_go })}
      />
      {list.letting_go === "fade" && (
        <Row cap="within">
          <Typed
            numeric
            label="How long letting go takes"
            value={list.release}
            onCommit={(release) => edits.change({ release })}
          />
        </Row>
      )}
      <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
        <Button disabled={list.main} onClick={() => void edits.change({ main: true })}>
          {list.main ? "Space goes here" : "Let Space go here"}
        </Button>
        <Button
          sx={{ color: ink.soft }}
          onClick={(event) => void sure.ask(event.currentTarget, "list", list.id, edits.remove)}
        >
          Delete
        </Button>
        {sure.panel}
      </Box>
    </Box>
  );
}

function Row({ cap, children }: { cap: string; children: React.ReactNode }) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "64px 1fr", alignItems: "center", gap: 1 }}>
      <Cap>{cap}</Cap>
      {children}
    </Box>
  );
}
