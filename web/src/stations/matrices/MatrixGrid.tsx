import { Box } from "@mui/material";
import { useEffect, useRef } from "react";
import type { MatrixView } from "../../api/client";
import { eachFrame } from "../../canvas/eachFrame";
import { type GridScene, MARGIN, paintGrid } from "../../canvas/strandPainter";
import type { Bead } from "../../model/placements";
import { beadOn, type Square } from "../../model/squares";
import { latest, pictures } from "../../stores/pictures";
import { ink } from "../../theme/tokens";

export type { Square } from "../../model/squares";

interface GridProps {
  matrix: MatrixView;
  beads: Bead[];
  cell: number;
  strand: boolean;
  labels: boolean;
  cursor: Square | null;
  held: Square | null;
  /** Chosen cells, "<fixture id>:<cell>". */
  chosen: Set<string>;
  /** A frame was drawn with Shift, from one square to another. */
  onFrame: (from: Square, to: Square) => void;
  onCursor: (square: Square) => void;
  onClick: (square: Square) => void;
  onExchange: (a: Square, b: Square) => void;
  onLift: (square: Square) => void;
  onKey: (event: React.KeyboardEvent) => void;
  onScroll?: (left: number, top: number, width: number, height: number) => void;
  scroller: React.RefObject<HTMLDivElement | null>;
}

const DRAG_FROM = 4;

/** The enlarged matrix on one canvas with its own hit-testing: drag to move or exchange, off the grid to lift. */
export function MatrixGrid(props: GridProps) {
  const { matrix, scroller } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const drag = useRef<(NonNullable<GridScene["drag"]> & { moved: boolean }) | null>(null);
  const frame = useRef<GridScene["frame"]>(null);
  const dirty = useRef(true);
  const now = useRef(props);
  now.current = props;
  dirty.current = true;

  useEffect(() => {
    let seen = "";
    const draw = () => {
      const target = canvas.current;
      const view = scroller.current;
      const { matrix: m, beads, cell, strand, labels, cursor, held, chosen } = now.current;
      if (!target || !view) return;
      const [width, height] = [view.clientWidth, view.clientHeight];
      const state = [latest.frame.number, view.scrollLeft, view.scrollTop, width, height].join();
      if (state === seen && !dirty.current && !drag.current && !frame.current) return;
      seen = state;
      dirty.current = false;
      const ratio = window.devicePixelRatio;
      if (target.width !== width * ratio || target.height !== height * ratio) {
        target.width = width * ratio;
        target.height = height * ratio;
        target.style.width = `${width}px`;
        target.style.height = `${height}px`;
      }
      const g = target.getContext("2d");
      if (!g) return;
      g.setTransform(ratio, 0, 0, ratio, 0, 0);
      paintGrid(g, {
        columns: m.width,
        rows: m.height,
        beads,
        cell,
        left: view.scrollLeft,
        top: view.scrollTop,
        width,
        height,
        picture: pictures.get(m.id),
        cursor,
        held,
        drag: drag.current?.moved ? drag.current : null,
        strand,
        labels,
        chosen,
        frame: frame.current,
      });
      now.current.onScroll?.(view.scrollLeft, view.scrollTop, width, height);
    };
    return eachFrame(draw);
  }, [scroller]);

  const squareAt = (event: React.PointerEvent): [Square | null, number, number] => {
    const box = canvas.current?.getBoundingClientRect();
    const view = scroller.current;
    if (!box || !view) return [null, 0, 0];
    const px = event.clientX - box.left;
    const py = event.clientY - box.top;
    const x = Math.floor((px - MARGIN.left + view.scrollLeft) / props.cell);
    const y = Math.floor((py - MARGIN.top + view.scrollTop) / props.cell);
    const inside =
      px >= MARGIN.left && py >= MARGIN.top && x >= 0 && y >= 0 && x < matrix.width && y < matrix.height;
    return [inside ? [x, y] : null, px, py];
  };

  return (
    <Box ref={scroller} sx={{ overflow: "auto", minHeight: 0, minWidth: 0, flex: 1, position: "relative" }}>
      <div
        style={{
          width: matrix.width * props.cell + MARGIN.left + 8,
          height: matrix.height * props.cell + MARGIN.top + 8,
        }}
      >
        <canvas
          ref={canvas}
          tabIndex={0}
          role="application"
          aria-label={`Squares of ${matrix.name}`}
          data-cell={props.cell}
          data-left={MARGIN.left}
          data-top={MARGIN.top}
          onKeyDown={props.onKey}
          onPointerDown={(event) => {
            const [square, x, y] = squareAt(event);
            if (!square) return;
            if (event.shiftKey) {
              event.currentTarget.setPointerCapture(event.pointerId);
              frame.current = { from: square, to: square };
              return;
            }
            props.onCursor(square);
            if (beadOn(props.beads, square)) {
              event.currentTarget.setPointerCapture(event.pointerId);
              drag.current = { from: square, to: square, x, y, moved: false };
            }
          }}
          onPointerMove={(event) => {
            if (frame.current) {
              const [square] = squareAt(event);
              if (square) frame.current = { ...frame.current, to: square };
              return;
            }
            const moving = drag.current;
            if (!moving) return;
            const [square, x, y] = squareAt(event);
            moving.moved ||= Math.hypot(x - moving.x, y - moving.y) > DRAG_FROM;
            if (moving.moved) Object.assign(moving, { to: square, x, y });
          }}
          onPointerUp={(event) => {
            const framed = frame.current;
            const moving = drag.current;
            frame.current = null;
            drag.current = null;
            dirty.current = true;
            if (framed) {
              props.onFrame(framed.from, framed.to);
              return;
            }
            const [square] = squareAt(event);
            if (!moving?.moved) {
              if (square) props.onClick(square);
              return;
            }
            if (!square) props.onLift(moving.from);
            else if (square[0] !== moving.from[0] || square[1] !== moving.from[1])
              props.onExchange(moving.from, square);
          }}
          onPointerCancel={() => {
            drag.current = null;
            frame.current = null;
          }}
          style={{
            position: "sticky",
            left: 0,
            top: 0,
            display: "block",
            outlineOffset: -2,
            touchAction: "none",
            background: ink.ground,
          }}
        />
      </div>
    </Box>
  );
}
