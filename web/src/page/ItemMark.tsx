import { useEffect, useMemo, useRef } from "react";
import type { WholeShow } from "../api/client";
import { paintWall, wallsOf } from "../canvas/wallPainter";
import { watchCells } from "../stores/live";
import { cells } from "../stores/pictures";
import type { Item } from "./shapes";

const PATHS: Record<string, string> = {
  drop: "M16 4C11 11 8 15 8 19a8 8 0 0 0 16 0c0-4-3-8-8-15Z",
  fog: "M4 9h24M8 15h20M4 21h20M10 27h14",
  beam: "M4 16a4 4 0 1 0 8 0 4 4 0 1 0-8 0ZM14 14 28 7M14 16h14M14 18l14 7",
  snow: "M16 4v24M5.6 10l20.8 12M26.4 10 5.6 22M16 9l-3-3M16 9l3-3M16 23l-3 3M16 23l3 3",
  waves: "M3 12c4-5 8-5 13 0s9 5 13 0M3 21c4-5 8-5 13 0s9 5 13 0",
  sun: "M5 23h22M9 23a7 7 0 0 1 14 0M16 7v5M6 12l3 3M26 12l-3 3",
  star: "M16 3 19 13 29 16 19 19 16 29 13 19 3 16 13 13Z",
  house: "M5 15 16 5l11 10v13H5ZM13 28v-8h6v8",
};

/** The sign of an item: a small true picture of what is sent, or a drawn one. */
export function ItemMark({
  item,
  show,
  colour,
  fill,
}: {
  item: Item;
  show: WholeShow;
  colour: string;
  fill?: boolean;
}) {
  if (item.mark === "sent") return <Sent item={item} show={show} fill={fill === true} />;
  const path = PATHS[item.mark];
  if (!path) return null;
  return (
    <svg width="34" height="34" viewBox="0 0 32 32" aria-hidden="true" style={{ flex: "none" }}>
      <path
        d={path}
        fill="none"
        stroke={colour}
        strokeWidth="2"
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  );
}

const EVERY_MS = 100;

function Sent({ item, show, fill }: { item: Item; show: WholeShow; fill: boolean }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only these say where cells lie
  const wall = useMemo(() => wallOf(show, item), [show.fixtures, show.matrices, show.looks, item.handles]);
  useEffect(() => watchCells(), []);
  useEffect(() => {
    if (!wall) return;
    const timer = setInterval(() => {
      const target = canvas.current;
      const context = target?.getContext("2d");
      if (!target || !context) return;
      const [w, h] = [target.clientWidth, target.clientHeight];
      if (target.width !== w || target.height !== h) {
        target.width = w;
        target.height = h;
      }
      context.clearRect(0, 0, w, h);
      paintWall(context, wall, cells.rgb, { x: 0, y: 0, w, h });
    }, EVERY_MS);
    return () => clearInterval(timer);
  }, [wall]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label="as sent"
      data-live
      style={
        fill ? { width: "100%", height: "100%" } : { width: 84, height: "min(100%, 56px)", flex: "none" }
      }
    />
  );
}

/** The matrix that an item's look is painted over most, or that its group has cells on. */
function wallOf(show: WholeShow, item: Item) {
  const [kind, key] = (item.handles[0]?.handle ?? "").split("/");
  const walls = wallsOf(show);
  const look = kind === "look" ? show.looks.find((one) => one.id === key) : undefined;
  const on = look?.lines.map((line) => ("matrix" in line ? line.matrix : ""));
  const group = kind === "group" ? show.groups.find((one) => one.id === key)?.fixtures : undefined;
  const place = show.matrices.findIndex((matrix) =>
    group ? matrix.placements.fixtures.some((one) => group.includes(one)) : on?.includes(matrix.id),
  );
  return walls[place < 0 ? 0 : place];
}
