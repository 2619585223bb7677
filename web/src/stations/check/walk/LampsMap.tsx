import { Box } from "@mui/material";
import { useEffect, useMemo, useRef, useState } from "react";
import type { MatrixView, WholeShow } from "../../../api/client";
import { eachFrame, same } from "../../../canvas/eachFrame";
import { paintLamps } from "../../../canvas/lampsPainter";
import { addressOf, type Bead, beadsOf } from "../../../model/placements";
import { markOn, type WalkView } from "../../../model/walks";
import { watchFull } from "../../../stores/live";
import { type Picture, pictures } from "../../../stores/pictures";
import { themeNow } from "../../../theme/tokens";
import { go, mark, useAsking } from "./useWalk";

interface LampsProps {
  show: WholeShow;
  matrix: MatrixView;
  walk: WalkView | null;
  /** What is shown instead of what is being sent now. */
  instead?: { current: Picture | undefined };
  /** A cell was pointed at; nothing where the pointer is on none. */
  onCell?: (bead: Bead | null) => void;
  onChoose?: (bead: Bead) => void;
  largest?: number;
}

/** A matrix's lamps as they are lit. On a walk a click goes to the cell, or says where a lamp really lit. */
export function LampsMap({ show, matrix, walk, instead, onCell, onChoose, largest = 44 }: LampsProps) {
  const beads = useMemo(() => beadsOf(matrix, show.fixtures), [matrix, show.fixtures]);
  const marks = useMemo(() => markOn(beads, show.marks), [beads, show.marks]);
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [over, setOver] = useState<[number, number] | null>(null);
  const [cursor, setCursor] = useState<[number, number]>([0, 0]);
  useEffect(() => watchFull(matrix.id), [matrix.id]);
  const view = useRef({ beads, marks, walk, over });
  view.current = { beads, marks, walk, over };
  const size = useRef(8);
  useEffect(() => {
    let seen: unknown[] = [];
    const draw = () => {
      const { current: target } = canvas;
      const { current: around } = box;
      if (!target || !around) return;
      const [w, h] = [around.clientWidth - 2, around.clientHeight - 2];
      size.current = Math.max(1, Math.min(largest, w / matrix.width, h / matrix.height));
      if (size.current > 5) size.current = Math.floor(size.current * 2) / 2;
      const now = view.current;
      const picture = instead ? instead.current : pictures.get(matrix.id);
      const state = [picture, now.beads, now.marks, now.walk, now.over, size.current, themeNow()];
      if (same(state, seen)) return;
      seen = state;
      target.style.width = `${Math.ceil(matrix.width * size.current)}px`;
      target.style.height = `${Math.ceil(matrix.height * size.current)}px`;
      target.dataset.cell = String(size.current);
      paintLamps(target, {
        width: matrix.width,
        height: matrix.height,
        size: size.current,
        picture,
        squares: now.beads,
        marks: now.marks,
        lit: now.walk?.matrix === matrix.id ? (now.walk.squares as [number, number][]) : [],
        over: now.over,
      });
    };
    return eachFrame(draw);
  }, [matrix, instead, largest]);

  const beadAt = (square: [number, number]) =>
    beads.find(
      (one) =>
        square[0] + 0.5 >= one.x &&
        square[0] + 0.5 < one.x + one.w &&
        square[1] + 0.5 >= one.y &&
        square[1] + 0.5 < one.y + one.h,
    );
  const squareAt = (event: React.PointerEvent | React.MouseEvent): [number, number] => {
    const rect = event.currentTarget.getBoundingClientRect();
    return [
      Math.floor((event.clientX - rect.left) / size.current),
      Math.floor((event.clientY - rect.top) / size.current),
    ];
  };
  const choose = async (square: [number, number]) => {
    const bead = beadAt(square);
    if (!bead) return;
    const { ask } = useAsking.getState();
    onChoose?.(bead);
    if (!walk) return;
    const atom: [string, number] = [bead.fixture.id, Number(bead.cell)];
    if (ask?.what === "place")
      await mark(walk, "wrong place", {
        of: ask.of,
        seen: { fixture: atom[0], cell: ask.of[1] ? atom[1] : 0 },
      });
    else if (!ask && walk.by !== "emitter" && walk.by !== "all" && walk.by !== "number")
      await go({ fixture: atom[0], cell: atom[1] });
    else useAsking.setState({ pointed: atom });
  };
  const point = (square: [number, number] | null) => {
    setOver(square);
    onCell?.(square ? (beadAt(square) ?? null) : null);
  };
  const pointedAt = over && beadAt(over);
  return (
    <Box ref={box} sx={{ flex: 1, minHeight: 0, minWidth: 0, overflow: "hidden" }}>
      <canvas
        data-live
        ref={canvas}
        tabIndex={0}
        role="application"
        aria-label={`Lamps of ${matrix.name}`}
        title={
          pointedAt ? `${pointedAt.fixture.number}:${pointedAt.cell}, ${addressOf(pointedAt.position)}` : ""
        }
        onPointerMove={(event) => point(squareAt(event))}
        onPointerLeave={() => point(null)}
        onClick={(event) => void choose(squareAt(event))}
        onKeyDown={(event) => {
          const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[
            event.key
          ];
          if (step && event.shiftKey) {
            const next: [number, number] = [
              Math.max(0, Math.min(matrix.width - 1, cursor[0] + (step[0] ?? 0))),
              Math.max(0, Math.min(matrix.height - 1, cursor[1] + (step[1] ?? 0))),
            ];
            setCursor(next);
            point(next);
          } else if (event.key === "Enter") void choose(over ?? cursor);
          else return;
          event.preventDefault();
        }}
        style={{ display: "block", margin: "0 auto", cursor: "crosshair", touchAction: "manipulation" }}
      />
    </Box>
  );
}
