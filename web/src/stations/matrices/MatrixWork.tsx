import { Box, Button, Switch } from "@mui/material";
import { useEffect, useMemo, useRef, useState } from "react";
import { useLocation } from "wouter";
import { client, type MatrixView, type Schemas, type WholeShow } from "../../api/client";
import { Cap, Num } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { addressOf, type Bead, beadsOf } from "../../model/placements";
import { beadOn, inFrame, isAligned, keyOf, sayPlace } from "../../model/squares";
import { clamp } from "../../model/values";
import { watchFull } from "../../stores/live";
import { chooseFixtures } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { doing } from "../check/walk/useWalk";
import { Arrange } from "./Arrange";
import { MatrixGrid, type Square } from "./MatrixGrid";
import { Overview } from "./Overview";
import { Picking } from "./Picking";
import { type Hand, Tray } from "./Tray";
import { useMatrixEdits } from "./useMatrixEdits";
import { useTray } from "./useTray";

const ZOOMS = [3, 4, 6, 8, 12, 16, 24, 32, 48, 64, 80];

/** What a matrix may take before an overview stands beside it, px. */
const ROOM = { width: 690, height: 430 };

/** Labels are read where they can be; a matrix that is mostly empty is shown whole. */
function firstZoom(matrix: MatrixView, cells: number): number {
  const squares = matrix.width * matrix.height;
  if (squares <= 64) return 80;
  if (cells * 2 > squares) return 64;
  const fitting = ZOOMS.filter(
    (one) => one * matrix.width <= ROOM.width && one * matrix.height <= ROOM.height,
  );
  return fitting.at(-1) ?? ZOOMS[0] ?? 3;
}

/** The middle of the station: head, overview, grid, what is chosen, the tray. */
export function MatrixWork({ show, matrix }: { show: WholeShow; matrix: MatrixView }) {
  const [, navigate] = useLocation();
  const beads = useMemo(() => beadsOf(matrix, show.fixtures), [matrix, show.fixtures]);
  const tray = useTray(show, matrix.id);
  const [zoom, setZoom] = useState(() => firstZoom(matrix, beads.length));
  const [strand, setStrand] = useState(true);
  const [arranging, setArranging] = useState(false);
  const [cursor, setCursor] = useState<Square | null>(null);
  const [held, setHeld] = useState<Square | null>(null);
  const [hand, setHand] = useState<Hand | null>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const part = useRef({ x: 0, y: 0, w: 1, h: 1 });
  useEffect(() => watchFull(matrix.id), [matrix.id]);

  const beadAt = (square: Square | null) => (square ? beadOn(beads, square) : undefined);
  const [picked, setPicked] = useState<Set<string>>(new Set());
  const choose = (found: Bead[], more: boolean) =>
    setPicked((before) => new Set([...(more ? before : []), ...found.map(keyOf)]));
  const { freely, exchange, lift, liftCells, put, rename } = useMatrixEdits(matrix);
  const liftPicked = () =>
    liftCells(beads.filter((one) => picked.has(keyOf(one)))).then((done) => done && setPicked(new Set()));
  const place = async (to: Square) => {
    if (!hand || beadAt(to)) return;
    if (await put(hand.fixture, hand.cell, to))
      setHand(hand.cell < hand.last ? { ...hand, cell: hand.cell + 1 } : null);
  };

  const onKey = (event: React.KeyboardEvent) => {
    const steps: Record<string, Square> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
    };
    const step = steps[event.key];
    const at = cursor ?? [0, 0];
    if (step && event.shiftKey && cursor) {
      const to: Square = [
        clamp(at[0] + step[0], 0, matrix.width - 1),
        clamp(at[1] + step[1], 0, matrix.height - 1),
      ];
      choose(beads.filter(inFrame(at, to)), true);
      setCursor(to);
    } else if (step)
      setCursor([clamp(at[0] + step[0], 0, matrix.width - 1), clamp(at[1] + step[1], 0, matrix.height - 1)]);
    else if (event.key === "Enter" && hand) void place(at);
    else if (event.key === "Enter" && held) {
      if (held[0] !== at[0] || held[1] !== at[1]) void exchange(held, at);
      setHeld(null);
    } else if (event.key === "Enter" && beadAt(at)) setHeld(at);
    else if (event.key === "Escape") {
      setHeld(null);
      setHand(null);
      setPicked(new Set());
    } else if (event.key === "Delete" && picked.size) void liftPicked();
    else if (event.key === "Delete" && beadAt(at)) void lift(at);
    else return;
    event.preventDefault();
  };

  const lightIt = async () => {
    const body = {
      by: "cell",
      matrix: matrix.id,
      selection: "all",
      emitter: "",
      level: 1,
      alone: true,
      seconds: 0,
    };
    if (await doing(client.POST("/api/walk", { body: body as Schemas["WalkStart"] }))) navigate("/check");
  };
  const chosen = beadAt(cursor);
  const empty = matrix.width * matrix.height - beads.length;
  const fits = matrix.width * zoom <= ROOM.width && matrix.height * zoom <= ROOM.height;
  return (
    <>
      <Box sx={{ display: "flex", alignItems: "center", gap: 2, px: 2, pt: 1.25, pb: 1 }}>
        <Box sx={{ "& input": { fontSize: 20, fontWeight: 620 }, width: 176, ml: -0.75 }}>
          <Typed quiet label="Name of the matrix" value={matrix.name} onCommit={rename} />
        </Box>
        <Cap>
          {matrix.width} × {matrix.height}, {beads.length} cells
          {empty > 0 && `, ${empty} empty`}
        </Cap>
        <Button
          sx={{ ml: "auto", whiteSpace: "nowrap" }}
          disabled={!beads.length}
          title="Walks along the strand on the real lamps, at Check"
          onClick={() => void lightIt()}
        >
          Light it
        </Button>
        <Button aria-pressed={arranging} onClick={() => setArranging((before) => !before)}>
          Arrange
        </Button>
        <Box
          component="label"
          sx={{ fontSize: 13, display: "flex", alignItems: "center", whiteSpace: "nowrap" }}
        >
          strand <Switch checked={strand} onChange={(_, on) => setStrand(on)} />
        </Box>
        <Box sx={{ fontSize: 13, display: "flex", alignItems: "center", gap: 0.5, whiteSpace: "nowrap" }}>
          zoom
          <Button
            aria-label="Smaller"
            onClick={() => setZoom(ZOOMS[Math.max(0, ZOOMS.indexOf(zoom) - 1)] ?? zoom)}
          >
            −
          </Button>
          <Num>{zoom} px</Num>
          <Button
            aria-label="Larger"
            onClick={() => setZoom(ZOOMS[Math.min(ZOOMS.length - 1, ZOOMS.indexOf(zoom) + 1)] ?? zoom)}
          >
            +
          </Button>
        </Box>
      </Box>
      <Box
        sx={{
          px: 2,
          pb: 1,
          minHeight: 28,
          fontSize: 13,
          color: ink.soft,
          borderBottom: `1px solid ${ink.hair}`,
        }}
      >
        {hand ? (
          <>
            In hand <Num>{`${hand.number}:${hand.cell}`}</Num>: click an empty square, or Esc
          </>
        ) : chosen ? (
          <>
            <Num style={{ color: ink.text }}>{`${chosen.fixture.number}:${chosen.cell}`}</Num>{" "}
            {chosen.fixture.name}, <Num>{addressOf(chosen.position)}</Num>
            {isAligned(chosen) ? (
              <>
                , column {chosen.x + 1}, row {chosen.y + 1}
              </>
            ) : (
              ", covers"
            )}
            <Box component="span" sx={{ display: "inline-block", ml: 1, verticalAlign: "middle" }}>
              <Typed
                numeric
                width={150}
                label="Place and size in squares"
                value={sayPlace(chosen)}
                onCommit={(text) => freely(chosen, text)}
              />
            </Box>
            {held && ", picked up: move on and press Enter to exchange"}
          </>
        ) : cursor ? (
          `column ${cursor[0] + 1}, row ${cursor[1] + 1}: empty`
        ) : (
          "Squares count from the top left, x to the right, y down. Drag to exchange; with Shift to choose many."
        )}
      </Box>
      {arranging && <Arrange show={show} matrix={matrix} cursor={cursor} />}
      {(arranging || picked.size > 0) && (
        <Picking
          beads={beads}
          picked={picked}
          cursor={cursor}
          onPick={(found) => choose(found, false)}
          onLift={() => void liftPicked()}
        />
      )}
      <Box sx={{ display: "flex", minHeight: 0, flex: 1, gap: 1.5, p: 1.5 }}>
        {!fits && (
          <Overview
            matrix={matrix}
            beads={beads}
            part={part}
            maxWidth={170}
            maxHeight={arranging ? 290 : 470}
            onGo={(x, y) =>
              scroller.current?.scrollTo((x - part.current.w / 2) * zoom, (y - part.current.h / 2) * zoom)
            }
          />
        )}
        <MatrixGrid
          matrix={matrix}
          beads={beads}
          cell={zoom}
          strand={strand}
          labels
          cursor={cursor}
          held={held}
          chosen={picked}
          onFrame={(from, to) => {
            choose(beads.filter(inFrame(from, to)), true);
            setCursor(to);
          }}
          onCursor={setCursor}
          onClick={(square) => hand && void place(square)}
          onExchange={(a, b) => void exchange(a, b)}
          onLift={(square) => void lift(square)}
          onKey={onKey}
          onScroll={(left, top, width, height) => {
            part.current = {
              x: left / zoom,
              y: top / zoom,
              w: Math.min(matrix.width, width / zoom),
              h: Math.min(matrix.height, height / zoom),
            };
          }}
          scroller={scroller}
        />
      </Box>
      <Tray runs={tray} hand={hand} onTake={setHand} onShow={(fixture) => chooseFixtures([fixture])} />
    </>
  );
}
