import { Box } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Chip } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { Field } from "../../components/Field";
import { ink } from "../../theme/tokens";

type Body = Schemas["WeaveBody"];
export type Corner = Body["corner"];

export const CORNERS: Corner[] = ["top left", "top right", "bottom left", "bottom right"];

const PARTS = ["boards", "gaps", "skip", "turn"] as const;
type Part = (typeof PARTS)[number];

/** What only some walls need: boards with an order of their own, gaps, squares left out, a turn of it all. */
export function WeaveExtras({ body, set }: { body: Body; set: (change: Partial<Body>) => void }) {
  const [open, setOpen] = useState<Part[]>([]);
  const used: Record<Part, boolean> = {
    boards: Boolean(body.board),
    gaps: Boolean(body.gap_columns || body.gap_rows),
    skip: Boolean(body.skip),
    turn: Boolean(body.flip || body.turn),
  };
  const none: Record<Part, Partial<Body>> = {
    boards: { board: null },
    gaps: { gap_columns: 0, gap_rows: 0 },
    skip: { skip: "" },
    turn: { flip: false, turn: 0 },
  };
  const shown = (part: Part) => used[part] || open.includes(part);
  const toggle = (part: Part) => {
    if (shown(part)) {
      setOpen(open.filter((one) => one !== part));
      if (used[part]) set(none[part]);
      return;
    }
    setOpen([...open, part]);
    if (part === "boards")
      set({
        board: {
          width: Math.max(1, Math.min(8, body.width)),
          height: Math.max(1, Math.min(8, body.height)),
          corner: "top left",
          along: "rows",
          snake: 0,
        },
      });
    if (part === "gaps") set({ gap_columns: 1 });
  };
  const board = body.board;
  const setBoard = (change: Partial<Schemas["BoardBody"]>) =>
    board && set({ board: { ...board, ...change } });
  return (
    <Box sx={{ px: 2, pt: 1.25, fontSize: 13.5, display: "grid", gap: 1 }}>
      <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap" }}>
        {PARTS.map((part) => (
          <Chip key={part} active={shown(part)} aria-pressed={shown(part)} onClick={() => toggle(part)}>
            {part}
          </Chip>
        ))}
      </Box>
      {board && (
        <Box sx={{ display: "grid", gap: 0.75 }} role="group" aria-label="Boards">
          <Box sx={{ display: "flex", gap: 0.75, alignItems: "center" }}>
            boards of
            <Count label="Columns of a board" value={board.width} onChange={(width) => setBoard({ width })} />
            ×
            <Count label="Rows of a board" value={board.height} onChange={(height) => setBoard({ height })} />
          </Box>
          <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
            <Box sx={{ display: "grid", gridTemplateColumns: "32px 32px", gap: 0.5 }}>
              {CORNERS.map((corner) => (
                <CornerButton
                  key={corner}
                  corner={corner}
                  of="each board"
                  on={board.corner === corner}
                  onClick={() => setBoard({ corner })}
                />
              ))}
            </Box>
            <Box sx={{ display: "grid", gap: 0.5 }}>
              <Choices
                names={[
                  ["rows", "rows"],
                  ["columns", "columns"],
                ]}
                chosen={board.along}
                onChoose={(along) => setBoard({ along })}
              />
              <Box sx={{ display: "flex", gap: 0.75, alignItems: "center" }}>
                turns back every
                <Count
                  label="Lines of a board until it turns back"
                  value={board.snake}
                  onChange={(snake) => setBoard({ snake })}
                />
              </Box>
            </Box>
          </Box>
        </Box>
      )}
      {shown("gaps") && (
        <Box
          sx={{ display: "flex", gap: 0.75, alignItems: "center", flexWrap: "wrap" }}
          role="group"
          aria-label="Gaps"
        >
          a gap after every
          <Count
            label="Columns until a gap"
            value={body.gap_columns}
            onChange={(gap_columns) => set({ gap_columns })}
          />
          columns,
          <Count label="Rows until a gap" value={body.gap_rows} onChange={(gap_rows) => set({ gap_rows })} />
          rows (0: none)
        </Box>
      )}
      {shown("skip") && (
        <Box sx={{ display: "flex", gap: 0.75, alignItems: "center" }}>
          leave out squares
          <Field
            label="Squares to leave out, counted along the wire"
            width={130}
            placeholder="5, 9-12"
            value={body.skip}
            onChange={(skip) => set({ skip })}
          />
        </Box>
      )}
      {shown("turn") && (
        <Box sx={{ display: "flex", gap: 0.75, alignItems: "center", flexWrap: "wrap" }}>
          <Chip active={body.flip} aria-pressed={body.flip} onClick={() => set({ flip: !body.flip })}>
            mirrored
          </Chip>
          turned by
          <Choices
            names={[
              ["0", "0°"],
              ["90", "90°"],
              ["180", "180°"],
              ["270", "270°"],
            ]}
            chosen={String(body.turn)}
            onChoose={(turn) => set({ turn: Number(turn) as Body["turn"] })}
          />
        </Box>
      )}
    </Box>
  );
}

interface CountProps {
  label: string;
  value: number;
  onChange: (value: number) => void;
}

/** A small whole number, typed; arrows step it. */
export function Count({ label, value, onChange }: CountProps) {
  const [text, setText] = useState<string | null>(null);
  const step = (event: React.KeyboardEvent) => {
    const by = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (!by) return;
    event.preventDefault();
    setText(null);
    onChange(Math.max(0, value + by));
  };
  return (
    <Field
      label={label}
      width={46}
      value={text ?? String(value)}
      onKeyDown={step}
      onBlur={() => setText(null)}
      onChange={(next) => {
        setText(next);
        if (/^\d{1,6}$/.test(next.trim())) onChange(Number(next));
      }}
    />
  );
}

interface CornerProps {
  corner: Corner;
  on: boolean;
  onClick: () => void;
  of?: string;
}

export function CornerButton({ corner, on, onClick, of = "" }: CornerProps) {
  const cx = corner.endsWith("left") ? 7 : 21;
  const cy = corner.startsWith("top") ? 7 : 21;
  return (
    <Box
      component="button"
      aria-label={`Start ${of ? `${of} ` : ""}at the ${corner}`}
      aria-pressed={on}
      onClick={onClick}
      sx={{
        width: 32,
        height: 32,
        p: 0,
        background: on ? ink.brassGround : "none",
        border: `1px solid ${on ? ink.brass : ink.hair2}`,
        borderRadius: "3px",
        cursor: "pointer",
        color: on ? ink.brass : ink.soft,
      }}
    >
      <svg width="28" height="28" aria-hidden="true">
        <circle cx={cx} cy={cy} r="3.4" fill="none" stroke="currentColor" strokeWidth="1.6" />
      </svg>
    </Box>
  );
}
