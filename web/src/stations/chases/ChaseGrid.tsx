import { Box } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { type ChaseDrawing, drawChase, drawTouched, type Square } from "../../canvas/chasePainter";
import type { Rgb, Tool } from "./useChaseEdits";
import type { Chase } from "./useFramePicture";

interface GridProps {
  chase: Chase;
  picture: ImageData | undefined;
  before: ImageData | undefined;
  labels: ReadonlyMap<number, string>;
  tool: Tool | "pick up";
  colour: Rgb;
  room: { width: number; height: number };
  onDraw: (tool: Tool, squares: Square[], colour: Rgb | null) => Promise<unknown>;
  onPick: (colour: Rgb) => void;
}

const MOST = 68;

/** Squares the pointer went over between two of its places. */
function between([x, y]: Square, [toX, toY]: Square): Square[] {
  const steps = Math.max(Math.abs(toX - x), Math.abs(toY - y), 1);
  return Array.from({ length: steps + 1 }, (_, n) => [
    Math.round(x + ((toX - x) * n) / steps),
    Math.round(y + ((toY - y) * n) / steps),
  ]);
}

/** The squares of a frame, drawn with the chosen tool; by keyboard from the square under the cursor. */
export function ChaseGrid(props: GridProps) {
  const { chase, picture, before, labels, tool, colour, room, onDraw, onPick } = props;
  const { columns, rows } = chase;
  const canvas = useRef<HTMLCanvasElement>(null);
  const cell = Math.max(Math.floor(Math.min(room.width / columns, room.height / rows, MOST)), 2);
  const [cursor, setCursor] = useState<Square | null>(null);
  const path = useRef<Square[]>([]);
  const touched = useRef(new Set<number>());
  const span = useRef<ChaseDrawing["span"]>(null);
  const css = tool === "erase" ? "" : `rgb(${colour.join(" ")})`;
  const now = useRef<ChaseDrawing>(null as unknown as ChaseDrawing);
  now.current = {
    columns,
    rows,
    cell,
    picture,
    before,
    labels,
    touched: touched.current,
    colour: css,
    cursor,
    span: span.current,
  };
  const waiting = useRef(0);
  /** What a pen went over since it was drawn; null where everything is drawn anew. */
  const fresh = useRef<number[] | null>([]);
  const drawSoon = () => {
    cancelAnimationFrame(waiting.current);
    waiting.current = requestAnimationFrame(() => {
      const context = canvas.current?.getContext("2d");
      const some = fresh.current;
      fresh.current = [];
      if (!context) return;
      if (some) drawTouched(context, now.current, some);
      else drawChase(context, { ...now.current, span: span.current });
    });
  };
  const redraw = () => {
    fresh.current = null;
    drawSoon();
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: whatever is drawn is drawn anew
  useEffect(redraw, [picture, before, labels, cell, cursor, css, columns, rows]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was drawn has arrived
  useEffect(() => touched.current.clear(), [picture]);

  const squareOf = (event: React.PointerEvent): Square => {
    const box = event.currentTarget.getBoundingClientRect();
    return [Math.floor((event.clientX - box.left) / cell), Math.floor((event.clientY - box.top) / cell)];
  };
  const pick = ([x, y]: Square) => {
    const at = (y * columns + x) * 4;
    const [red = 0, green = 0, blue = 0, cover = 0] = picture?.data.subarray(at, at + 4) ?? [];
    if (cover) onPick([red, green, blue]);
  };
  const begin = (event: React.PointerEvent) => {
    if (event.button !== 0) return;
    const square = squareOf(event);
    if (tool === "pick up") return pick(square);
    event.currentTarget.setPointerCapture(event.pointerId);
    path.current = [square];
    go(square);
  };
  const go = (square: Square) => {
    const first = path.current[0];
    if (!first) return;
    if (tool === "pen" || tool === "erase") {
      for (const [x, y] of between(path.current.at(-1) ?? square, square)) {
        if (x < 0 || y < 0 || x >= columns || y >= rows || touched.current.has(y * columns + x)) continue;
        touched.current.add(y * columns + x);
        fresh.current?.push(y * columns + x);
        path.current.push([x, y]);
      }
      drawSoon();
    } else {
      path.current = [first, square];
      const shape = tool === "rectangle" ? "rectangle" : tool === "move" ? "move" : "line";
      span.current = tool === "fill" ? null : { from: first, to: square, shape };
      redraw();
    }
  };
  const end = async () => {
    const squares = path.current;
    path.current = [];
    span.current = null;
    if (!squares.length || tool === "pick up") return;
    await onDraw(tool, squares, tool === "erase" ? null : colour);
    touched.current.clear();
    redraw();
  };
  const leave = () => {
    path.current = [];
    span.current = null;
    touched.current.clear();
    redraw();
  };
  const onKey = (event: React.KeyboardEvent) => {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    const [x, y] = cursor ?? [0, 0];
    if (step) {
      const to: Square = cursor ? [x + (step[0] ?? 0), y + (step[1] ?? 0)] : [0, 0];
      setCursor([Math.min(Math.max(to[0], 0), columns - 1), Math.min(Math.max(to[1], 0), rows - 1)]);
    } else if (cursor && (event.key === " " || event.key === "Enter")) {
      if (tool === "pick up") pick(cursor);
      else
        void onDraw(
          tool === "fill" || tool === "erase" ? tool : "pen",
          [cursor],
          tool === "erase" ? null : colour,
        );
    } else if (cursor && (event.key === "Delete" || event.key === "Backspace"))
      void onDraw("erase", [cursor], null);
    else if (event.key === "Escape") leave();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Box
      component="canvas"
      ref={canvas}
      width={columns * cell}
      height={rows * cell}
      data-cell={cell}
      tabIndex={0}
      role="img"
      aria-label={`Squares of ${chase.name}`}
      aria-description={
        cursor
          ? `column ${cursor[0] + 1}, row ${cursor[1] + 1}; arrows move, Space draws`
          : "arrows move, Space draws"
      }
      onPointerDown={begin}
      onPointerMove={(event: React.PointerEvent) => path.current.length && go(squareOf(event))}
      onPointerUp={() => void end()}
      onPointerCancel={leave}
      onKeyDown={onKey}
      sx={{
        display: "block",
        cursor: "crosshair",
        touchAction: "none",
        borderRadius: "4px",
        maxWidth: "100%",
      }}
    />
  );
}
