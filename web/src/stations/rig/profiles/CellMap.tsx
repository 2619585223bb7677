import { Box } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { answer, client } from "../../../api/client";
import { Cap } from "../../../components/atoms";
import { Typed } from "../../../components/Typed";
import { clamp } from "../../../model/values";
import { ink, mono } from "../../../theme/tokens";
import type { Block } from "./useProfileDraft";

const WIDTH = 420;
const HEIGHTS = { line: 44, upright: 220, grid: 220, ring: 200, free: 220 } as const;
/** Beyond so many cells their numbers would cover them. */
const NUMBERED = 80;

/** Where the cells sit on the fixture's face. Free ones are dragged; any may be named. */
export function CellMap({ block, onChange }: { block: Block; onChange: (next: Partial<Block>) => void }) {
  const [at, setAt] = useState(0);
  const [moving, setMoving] = useState<[number, number] | null>(null);
  const box = useRef<SVGSVGElement>(null);
  const points = useCellPoints(block);
  const height = HEIGHTS[block.layout.kind];
  const radius = clamp(Math.sqrt((WIDTH * height) / Math.max(points.length, 1)) / 3, 2.5, 13);
  const free = block.layout.kind === "free";
  const chosen = Math.min(at, block.cell_count - 1);
  const place = (event: React.PointerEvent): [number, number] => {
    const bounds = box.current?.getBoundingClientRect();
    if (!bounds) return [0, 0];
    return [
      clamp((event.clientX - bounds.left) / bounds.width, 0, 1),
      clamp((event.clientY - bounds.top) / bounds.height, 0, 1),
    ];
  };
  const drop = (to: [number, number]) => {
    const placed = points.map((point, n) => (n === chosen ? to : point));
    onChange({ layout: { ...block.layout, points: placed.map(([x, y]) => [round4(x), round4(y)]) } });
  };
  const rename = (name: string) => {
    const names = Array.from({ length: Math.max(block.cell_names.length, chosen + 1) }, (_, n) =>
      n === chosen ? name.trim() : (block.cell_names[n] ?? ""),
    );
    while (names.length && !names.at(-1)) names.pop();
    onChange({ cell_names: names });
  };
  return (
    <Box sx={{ display: "flex", gap: 2, alignItems: "start" }}>
      <svg
        ref={box}
        width={WIDTH}
        height={height}
        role="img"
        aria-label={`Cells of ${block.name}`}
        style={{ background: ink.lamp, borderRadius: 3, touchAction: "none", flex: "none", maxWidth: "70%" }}
        onPointerMove={(event) => moving && setMoving(place(event))}
        onPointerUp={() => {
          if (moving) drop(moving);
          setMoving(null);
        }}
      >
        {points.map(([x, y], index) => {
          const [px, py] = moving && index === chosen ? moving : [x, y];
          return (
            <g
              // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its number
              key={index}
              transform={`translate(${px * WIDTH} ${py * height})`}
              onPointerDown={(event) => {
                setAt(index);
                if (!free) return;
                event.currentTarget.ownerSVGElement?.setPointerCapture(event.pointerId);
                setMoving(place(event));
              }}
              style={{ cursor: free ? "grab" : "pointer" }}
            >
              <circle
                r={radius}
                fill={index === chosen ? ink.brass : ink.row}
                stroke={index === chosen ? ink.brass : ink.hair2}
              />
              {points.length <= NUMBERED && (
                <text
                  textAnchor="middle"
                  y={3.6}
                  fill={index === chosen ? ink.ground : ink.soft}
                  style={{ font: `500 10.5px ${mono}` }}
                >
                  {index + 1}
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <Box sx={{ minWidth: 110, flex: 1 }}>
        <Cap>Cell {chosen + 1} is called</Cap>
        <Typed
          label={`Name of cell ${chosen + 1}`}
          value={block.cell_names[chosen] ?? ""}
          placeholder={String(chosen + 1)}
          onCommit={rename}
        />
        {free && <Cap sx={{ mt: 0.5 }}>Drag cells to where they sit.</Cap>}
      </Box>
    </Box>
  );
}

/** Where its cells sit, as the server lays them out; those of before until it has answered. */
function useCellPoints({ layout, cell_count: count }: Block): [number, number][] {
  const { data } = useQuery({
    queryKey: ["cell points", layout, count],
    queryFn: async () =>
      (await answer(client.POST("/api/profiles/cell-points", { body: { layout, count } }))) as [
        number,
        number,
      ][],
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });
  return data ?? [];
}

const round4 = (value: number): number => Number(value.toFixed(4));
