import { Box } from "@mui/material";
import { memo } from "react";

import { Typed } from "../../components/Typed";
import type { Modified } from "../../model/choosing";
import { ink } from "../../theme/tokens";
import type { Cue, CueEdits, CueFields } from "./useCueList";

export const ROW = 32;
export const COLUMNS =
  "66px 44px minmax(64px,1fr) minmax(88px,1.5fr) 66px minmax(70px,0.9fr) minmax(40px,0.9fr)";

export type State = "" | "done" | "now" | "leaving" | "coming" | "on Go";

interface RowProps {
  index: number;
  cue: Cue;
  y: number;
  state: State;
  chosen: boolean;
  edits: CueEdits;
  onChoose: (id: string, event: Modified) => void;
}

/** One cue; drawn again only where something of it is new. */
export const CueRow = memo(
  PlainRow,
  (a, b) =>
    a.cue === b.cue && a.y === b.y && a.state === b.state && a.chosen === b.chosen && a.index === b.index,
);

function PlainRow({ index, cue, y, state, chosen, edits, onChoose }: RowProps) {
  const at = state === "now" || state === "leaving" || state === "coming";
  const set = (fields: CueFields) => edits.set([cue.id], fields);
  return (
    <Box
      role="row"
      aria-rowindex={index}
      aria-selected={chosen}
      aria-current={state === "now" || state === "coming" ? "true" : undefined}
      data-state={state}
      onClick={(event) => onChoose(cue.id, event)}
      onDragOver={(event) => event.dataTransfer.types.includes(DRAGGED) && event.preventDefault()}
      onDrop={(event) => {
        const moved = event.dataTransfer.getData(DRAGGED).split(",").filter(Boolean);
        if (moved.length && !moved.includes(cue.id)) void edits.place(moved, cue.id);
      }}
      sx={{
        position: "absolute",
        top: y,
        left: 0,
        right: 0,
        height: ROW,
        px: 2,
        display: "grid",
        gridTemplateColumns: COLUMNS,
        columnGap: 1,
        alignItems: "center",
        fontSize: 13.5,
        fontWeight: at || state === "on Go" ? 600 : 400,
        color: state === "done" ? ink.soft : ink.text,
        borderBottom: `1px solid ${at || state === "on Go" ? ink.brass : ink.hair}`,
        background: at
          ? state === "coming"
            ? `repeating-linear-gradient(135deg, ${ink.brassGround} 0 6px, transparent 6px 12px)`
            : ink.brassGround
          : chosen
            ? ink.row
            : "none",
        boxShadow: at ? `inset 3px 0 ${ink.brass}` : chosen ? `inset 3px 0 ${ink.sea}` : "none",
        "& input": { fontWeight: "inherit" },
      }}
    >
      <Box
        role="gridcell"
        draggable
        onDragStart={(event) => event.dataTransfer.setData(DRAGGED, cue.id)}
        title="Drag it to another place"
        sx={{
          display: "flex",
          alignItems: "center",
          gap: 0.75,
          cursor: "grab",
          fontSize: 12.5,
          fontWeight: 400,
        }}
      >
        <Sign state={state} mark={cue.mark} />
        {state}
      </Box>
      <div role="gridcell">
        <Typed
          quiet
          numeric
          label={`Number of cue ${cue.number}`}
          value={String(cue.number)}
          onCommit={(text) => {
            const number = Number.parseFloat(text.replace(",", "."));
            return Number.isFinite(number) ? set({ number }) : "Type a number like 4 or 4.5.";
          }}
        />
      </div>
      <div role="gridcell">
        <Typed
          quiet
          label={`Name of cue ${cue.number}`}
          value={cue.name}
          onCommit={(name) => set({ name })}
        />
      </div>
      <Box role="gridcell" sx={cue.gone.length ? { "& input": { color: ink.coral } } : {}}>
        <Typed
          quiet
          label={`Looks of cue ${cue.number}`}
          placeholder="Harbour swell 40 %"
          value={cue.looks}
          onCommit={(looks) => set({ looks })}
        />
      </Box>
      <div role="gridcell">
        <Typed
          quiet
          numeric
          label={`Fade in of cue ${cue.number}`}
          value={cue.fade_in}
          onCommit={(fade_in) => set({ fade_in: fade_in || "0 s" })}
        />
      </div>
      <div role="gridcell">
        <Typed
          quiet
          label={`Then of cue ${cue.number}`}
          value={cue.then}
          onCommit={(then) => set({ then })}
        />
      </div>
      <div role="gridcell">
        <Typed
          quiet
          label={`Note of cue ${cue.number}`}
          value={cue.note}
          onCommit={(note) => set({ note })}
        />
      </div>
    </Box>
  );
}

const DRAGGED = "text/x-cues";

const MARKS: Record<Cue["mark"], string> = {
  "": ink.faint,
  amber: ink.brass,
  sea: ink.sea,
  coral: ink.coral,
  moss: "#8fae5d",
  violet: "#a48fd6",
};

/** Shape first, colour second: a tick, a full disc, a half one, a triangle, a dot. */
function Sign({ state, mark }: { state: State; mark: Cue["mark"] }) {
  const stroke = state === "done" ? ink.sea : state ? ink.brass : MARKS[mark];
  return (
    <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true" style={{ flex: "none" }}>
      {state === "done" && <path d="M2 7.5 5.5 11 12 3" fill="none" stroke={stroke} strokeWidth="1.8" />}
      {(state === "now" || state === "leaving") && <circle cx="7" cy="7" r="5.5" fill={stroke} />}
      {state === "coming" && (
        <>
          <circle cx="7" cy="7" r="5.5" fill="none" stroke={stroke} strokeWidth="1.4" />
          <path d="M7 1.5A5.5 5.5 0 0 1 7 12.5Z" fill={stroke} />
        </>
      )}
      {state === "on Go" && (
        <path d="M2.5 1.5 12 7 2.5 12.5Z" fill="none" stroke={stroke} strokeWidth="1.5" />
      )}
      {state === "" && <circle cx="7" cy="7" r={mark ? 3 : 1.5} fill={stroke} />}
    </svg>
  );
}
