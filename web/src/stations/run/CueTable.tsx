import { Box } from "@mui/material";
import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, useCallback, useEffect, useRef } from "react";
import { Scroll } from "../../components/atoms";
import { chosenBy, chosenByArrow, type Modified } from "../../model/choosing";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { COLUMNS, CueRow, ROW, type State } from "./CueRow";
import type { CueEdits, CueList, Playing } from "./useCueList";

const HEAD = 24;
const HEADS = ["At", "No.", "Name", "Looks", "Fade in", "Then", "Note"];

interface TableProps {
  list: CueList;
  edits: CueEdits;
  playing: Playing | undefined;
}

/** All cues, edited by typing; the ones at work stand out, and come into view. */
export const CueTable = memo(
  function CueTable({ list, edits, playing }: TableProps) {
    const chosen = useView((view) => view.cues);
    const box = useRef<HTMLDivElement>(null);
    const { cues } = list;
    const rows = useVirtualizer({
      count: cues.length,
      getScrollElement: () => box.current,
      estimateSize: () => ROW,
      overscan: 6,
      scrollMargin: HEAD,
      scrollPaddingStart: HEAD,
    });
    const listed = useRef(cues);
    listed.current = cues;
    const choose = useCallback(
      (id: string, event: Modified) =>
        useView.setState({ cues: chosenBy(listed.current, useView.getState().cues, id, event) }),
      [],
    );
    const onKey = (event: React.KeyboardEvent) => {
      if ((event.target as HTMLElement).closest("input, button")) return;
      const next = chosenByArrow(cues, chosen, event);
      if (next) useView.setState({ cues: next });
      else if (event.key === "Delete" && chosen.length) void edits.drop(chosen);
      else if (event.key === "Escape") useView.setState({ cues: [] });
      else return;
      event.preventDefault();
      event.stopPropagation();
    };
    // The cue that is gone to comes into view, with some before it.
    const here = cues.findIndex((one) => one.id === playing?.cue);
    // biome-ignore lint/correctness/useExhaustiveDependencies: only another cue moves the view
    useEffect(() => {
      if (here >= 0) rows.scrollToIndex(Math.max(here - 2, 0), { align: "start" });
    }, [here]);
    const last = cues.findIndex((one) => one.id === chosen.at(-1));
    // biome-ignore lint/correctness/useExhaustiveDependencies: only another row moves the view
    useEffect(() => {
      if (last >= 0) rows.scrollToIndex(last);
    }, [last]);
    return (
      <Scroll
        ref={box}
        role="grid"
        aria-label={`Cues of ${list.name}`}
        aria-rowcount={cues.length + 1}
        tabIndex={0}
        onKeyDown={onKey}
      >
        <Box
          role="row"
          aria-rowindex={1}
          sx={{
            display: "grid",
            gridTemplateColumns: COLUMNS,
            columnGap: 1,
            px: 2,
            height: HEAD,
            alignItems: "center",
            position: "sticky",
            top: 0,
            zIndex: 1,
            background: ink.ground,
            fontSize: 12,
            color: ink.soft,
            borderBottom: `1px solid ${ink.hair}`,
          }}
        >
          {HEADS.map((head) => (
            <span key={head} role="columnheader">
              {head}
            </span>
          ))}
        </Box>
        <div role="rowgroup" style={{ height: rows.getTotalSize(), position: "relative" }}>
          {rows.getVirtualItems().map(({ index, start }) => {
            const cue = cues[index];
            return (
              cue && (
                <CueRow
                  key={cue.id}
                  index={index + 2}
                  cue={cue}
                  y={start - HEAD}
                  state={stateOf(cue.id, list.order === "along" && index < here, playing)}
                  chosen={chosen.includes(cue.id)}
                  edits={edits}
                  onChoose={choose}
                />
              )
            );
          })}
        </div>
      </Scroll>
    );
  },
  (a, b) =>
    a.list === b.list &&
    a.playing?.cue === b.playing?.cue &&
    a.playing?.next === b.playing?.next &&
    mixed(a.playing) === mixed(b.playing) &&
    (a.playing?.fade_left_s ?? 0) > 0 === (b.playing?.fade_left_s ?? 0) > 0,
);

const mixed = (playing: Playing | undefined): string => playing?.mix.map((one) => one.cue).join() ?? "";

/** `over`: it stands before the one at work, in a list that goes along. */
function stateOf(cue: string, over: boolean, playing: Playing | undefined): State {
  if (!playing) return "";
  const fading = playing.fade_left_s > 0;
  if (cue === playing.cue) return fading ? "coming" : "now";
  if (fading && playing.mix.some((one) => one.cue === cue)) return "leaving";
  if (cue === playing.next) return "on Go";
  return over ? "done" : "";
}
